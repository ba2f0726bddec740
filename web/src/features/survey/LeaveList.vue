<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import PushButton from '@/kit/PushButton.vue'

/** What is still open before the surveyor leaves, most costly to come back for first. */
const props = defineProps<{ items: Schemas['Lack'][] }>()
const emit = defineEmits<{ go: [string] }>()
const all = ref(false)
const few = 6
const shown = computed(() => (all.value ? props.items : props.items.slice(0, few)))
</script>

<template>
  <section class="card leave" aria-label="Before you leave the site">
    <h2>Before you leave the site</h2>
    <p v-if="!items.length" class="quiet">Nothing is open: the visit is complete.</p>
    <ol v-else>
      <li v-for="i in shown" :key="i.field + i.what" :data-cost="i.cost">
        <span class="weight" :title="i.takes" aria-hidden="true">
          <i v-for="n in 3" :key="n" :class="{ full: n <= i.cost }" />
        </span>
        <PushButton kind="word" @click="emit('go', i.field)">{{ i.what }}</PushButton>
        <span class="quiet takes">{{ i.takes }}</span>
      </li>
    </ol>
    <PushButton kind="word" v-if="items.length > few" class="more" @click="all = !all">
      {{ all ? 'only the most costly' : `all ${items.length}` }}
    </PushButton>
  </section>
</template>

<style scoped>
.leave {
  margin-top: 12px;
}
h2 {
  margin: 0 0 6px;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 34px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  min-height: calc(var(--tap) - 6px);
  border-top: 1px solid var(--line);
}
.weight {
  display: flex;
  gap: 3px;
}
.weight i {
  width: 8px;
  height: 12px;
  border: 1px solid var(--slate);
  border-radius: 1px;
}
.weight .full {
  background: var(--slate);
}
.link {
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  padding: 0;
  text-align: left;
  cursor: pointer;
  min-height: var(--tap);
}
.link:hover {
  text-decoration: underline;
  text-decoration-color: var(--copper);
}
.more {
  color: var(--copper);
  padding-top: 8px;
}
.takes {
  font-size: 12.5px;
}
@media (max-width: 719px) {
  .takes {
    grid-column: 2;
  }
  li {
    grid-template-columns: 34px minmax(0, 1fr);
    padding: 6px 0;
    row-gap: 0;
  }
}
</style>
