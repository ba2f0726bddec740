<script setup lang="ts">
import type { Clash, Schemas } from '@/api/client'
import { inject, ref } from 'vue'
import { undoing } from '@/composables/useUndo'
import { fieldErrors, type SaveState } from '@/composables/useSection'
import { stopped } from '@/kept/sender'
import ClashList from './ClashList.vue'
import PushButton from './PushButton.vue'

/** What became of the changes, in words, and the choice where two people changed the same field. */
defineProps<{ state: SaveState; reason: string; clashes?: Clash[]; off?: boolean }>()
const errors = inject(fieldErrors, ref<Record<string, string>>({}))
const history = inject(undoing, undefined)
const emit = defineEmits<{ settle: [Schemas['Choice'][]]; theirs: []; retry: [] }>()
</script>

<template>
  <PushButton kind="plain" v-if="history && !off && history.can.value" data-undo @click="history.undo">
    Undo
  </PushButton>
  <span v-if="state === 'saved' && off" class="quiet state" data-state="saved">to read only, for you</span>
  <span v-else-if="state === 'saved'" class="quiet state" data-state="saved">saved</span>
  <span v-else-if="state === 'kept' && !stopped" class="quiet state" data-state="sending">kept, sending…</span>
  <span v-else-if="state === 'kept'" class="state kept" data-state="kept">kept on this device, not sent yet</span>
  <span v-else-if="state === 'waiting' || state === 'saving'" class="quiet state" data-state="saving">saving…</span>
  <div v-else-if="state === 'clash'" class="banner" role="alert" data-state="clash">
    <ClashList :reason="reason" :clashes="clashes ?? []" @settle="emit('settle', $event)" />
  </div>
  <div v-else-if="state === 'partly'" class="banner partly" role="status" data-state="partly">
    <p>
      Saved, except {{ Object.keys(errors).length === 1 ? 'one field' : `${Object.keys(errors).length} fields` }}:
      {{ reason }}
    </p>
    <span class="row">
      <router-link class="btn plain" :to="{ query: { field: Object.keys(errors)[0] } }">
        {{ Object.keys(errors).length === 1 ? 'Show it' : 'Show the first' }}
      </router-link>
      <PushButton kind="plain" @click="emit('theirs')">Take what is saved</PushButton>
    </span>
  </div>
  <div v-else class="banner" role="alert" data-state="refused">
    <p>Not saved: {{ reason }}</p>
    <span class="row">
      <PushButton kind="plain" @click="emit('retry')">Try again</PushButton>
      <PushButton kind="plain" @click="emit('theirs')">Give up my changes</PushButton>
    </span>
  </div>
</template>

<style scoped>
.state {
  font-size: 13px;
}
.kept {
  border-left: 4px solid var(--watch);
  padding-left: 8px;
}
.banner {
  flex-basis: 100%;
  order: 9;
  border: 1px solid var(--stop);
  border-left-width: 5px;
  background: var(--stop-soft);
  border-radius: 3px;
  padding: 8px 12px;
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
  flex-wrap: wrap;
}
.partly {
  border-color: var(--watch);
  background: var(--watch-soft);
}
</style>
