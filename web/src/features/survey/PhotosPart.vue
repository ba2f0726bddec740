<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import FileButton from '@/kit/FileButton.vue'
import KeptPhoto from '@/kit/KeptPhoto.vue'
import PushButton from '@/kit/PushButton.vue'
import { photoKinds } from '../options'
import { usePhotos } from './usePhotos'

type Kind = Schemas['Photo']['kind']
/** Photos by what they show; those that the rulebook and the firm ask for come first. */
const props = defineProps<{ required: string[] }>()
const photos = defineModel<Schemas['Photo'][]>({ required: true })
const emit = defineEmits<{ kept: [] }>()
const { busy, error, take, job } = usePhotos(photos, () => emit('kept'))
const kinds = computed(() => [...photoKinds].sort((a, b) => rank(a.value) - rank(b.value)))
const rank = (k: string) => (props.required.includes(k) ? props.required.indexOf(k) : 99)
const of = (k: Kind) => photos.value.filter((p) => p.kind === k)
</script>

<template>
  <section class="card photos" data-field="survey.photos">
    <header class="row">
      <h2>Photos</h2>
      <span class="quiet">made smaller on this device; place and time of the camera are removed</span>
    </header>
    <p v-if="error" class="error" role="alert">{{ error }}</p>
    <div class="grid">
      <div v-for="k in kinds" :key="k.value" class="kind" :data-kind="k.value">
        <p>
          <b>{{ k.text }}</b>
          <span v-if="!of(k.value).length" class="quiet">{{ required.includes(k.value) ? ', asked for' : '' }}</span>
        </p>
        <figure v-for="p in of(k.value)" :key="p.digest">
          <KeptPhoto :job="job" :digest="p.digest" :alt="`${k.text}, photo`" />
          <PushButton
            kind="plain"
            :aria-label="`Remove the photo of ${k.text}`"
            @click="photos.splice(photos.indexOf(p), 1)"
          >
            ×
          </PushButton>
        </figure>
        <FileButton plain camera many @chosen="(_, files) => take(k.value, files)">
          {{ busy === k.value ? 'keeping…' : of(k.value).length ? 'One more' : 'Take it' }}
        </FileButton>
      </div>
    </div>
  </section>
</template>

<style scoped>
.photos {
  margin-top: 12px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(156px, 1fr));
  gap: 14px;
  margin-top: 10px;
}
.kind {
  display: flex;
  flex-direction: column;
  gap: 6px;
  border-top: 2px solid var(--line);
  padding-top: 6px;
}
figure {
  margin: 0;
  position: relative;
}
figure .btn {
  position: absolute;
  top: 4px;
  right: 4px;
  background: var(--card);
  padding: 0 10px;
}
</style>
