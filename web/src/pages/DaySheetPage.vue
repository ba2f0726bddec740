<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, ref, toRef } from 'vue'
import { ask, client } from '@/api/client'
import EmptyState from '@/kit/EmptyState.vue'
import PushButton from '@/kit/PushButton.vue'
import TopBar from '@/kit/TopBar.vue'
import { dayText } from '@/kit/dates'

/** The van's sheet for a day: where, what to load, what to beware of. Made to be printed, and to be read on a phone. */
const props = defineProps<{ job: string }>()
const job = toRef(props, 'job')
const sheet = useQuery({
  queryKey: computed(() => ['sheet', job.value]),
  queryFn: () => ask(client.GET('/api/jobs/{job}/day-sheet', { params: { path: { job: job.value } } })),
})
const s = computed(() => sheet.data.value)
/** What is loaded already is this device's own affair: a tick while packing, kept over a reload. */
const shelf = computed(() => `loaded:${job.value}`)
const loaded = ref(new Set<string>(JSON.parse(localStorage.getItem(shelf.value) ?? '[]')))
function load(name: string) {
  const next = new Set(loaded.value)
  if (!next.delete(name)) next.add(name)
  loaded.value = next
  localStorage.setItem(shelf.value, JSON.stringify([...next]))
}
const print = () => window.print()
const amount = (q: number, unit?: string) => (unit ? `${+q.toFixed(1)} ${unit}` : `${q} ×`)
</script>

<template>
  <TopBar class="screen" />
  <main class="paper">
    <EmptyState v-if="sheet.isError.value" title="The day sheet cannot be read" :text="sheet.error.value?.message" />
    <template v-if="s">
      <header class="row">
        <h1>
          <span class="mono">{{ s.number }}</span> {{ s.customer }}
        </h1>
        <span class="grow" />
        <router-link class="btn plain screen" :to="`/jobs/${job}/plan`">Plan</router-link>
        <PushButton class="screen" @click="print">Print</PushButton>
      </header>
      <p class="when">
        <b v-if="s.day">{{ dayText(s.day) }}, {{ s.start }}</b>
        <b v-else>No day is booked</b>
        <span v-if="s.hours">, about {{ s.hours }} h</span>
        <span v-if="s.crew.length">, {{ s.crew.join(' and ') }}</span>
      </p>
      <p class="where">
        {{ s.address.join(', ')
        }}<template v-if="s.phone"
          >, <a :href="`tel:${s.phone}`">{{ s.phone }}</a></template
        >
      </p>
      <section v-if="s.over" class="box">
        <h2 class="minor">Booked against advice</h2>
        <p>{{ s.over }}</p>
        <ul>
          <li v-for="a in s.against" :key="a">{{ a }}</li>
        </ul>
      </section>
      <div class="columns">
        <section class="box">
          <h2 class="minor">Work</h2>
          <p v-for="w in s.work" :key="w">{{ w }}</p>
        </section>
        <section class="box">
          <h2 class="minor">Access</h2>
          <p v-for="a in s.access" :key="a">{{ a }}</p>
        </section>
        <section class="box">
          <h2 class="minor">Isolation</h2>
          <p v-for="i in s.isolate" :key="i">{{ i }}</p>
        </section>
      </div>
      <section class="box cautions">
        <h2 class="minor">Cautions</h2>
        <p v-for="c in s.cautions" :key="c">{{ c }}</p>
      </section>
      <div class="columns lists">
        <section
          v-for="l in [
            { title: 'Pick list', list: s.pick },
            { title: 'Tools', list: s.tools },
          ]"
          :key="l.title"
          class="box"
        >
          <h2 class="minor">{{ l.title }}</h2>
          <p v-if="!l.list.length" class="quiet">none listed</p>
          <div v-for="p in l.list" :key="p.name" class="pick" :data-pick="p.name">
            <PushButton
              kind="own"
              class="tick"
              role="checkbox"
              :aria-checked="loaded.has(p.name)"
              :aria-label="`${p.name} loaded`"
              @click="load(p.name)"
            >
              {{ loaded.has(p.name) ? '✓' : '' }}
            </PushButton>
            <span class="mono amount">{{ amount(p.quantity, p.unit) }}</span>
            <span class="what"
              >{{ p.name }} <span v-if="p.from" class="from">{{ p.from }}</span><b v-else-if="!p.inHand" class="lacking"
                >not in hand</b
              >
              <details v-if="p.says?.length">
                <summary>{{ p.says.length }} by text</summary>
                <small v-for="s in p.says" :key="s">{{ s }}</small>
              </details></span
            >
          </div>
        </section>
      </div>
    </template>
  </main>
</template>

<style scoped>
.paper {
  max-width: 900px;
  margin: 0 auto;
  padding: 18px 22px 60px;
}
.when {
  font-size: 16px;
  margin-top: 6px;
}
.where {
  margin: 2px 0 10px;
}
.columns {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 12px;
}
.lists {
  grid-template-columns: 3fr 2fr;
}
.box {
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--card);
  padding: 8px 12px 10px;
  margin-bottom: 12px;
}
.box h2 {
  margin: 0 0 4px;
}
.box p + p {
  margin-top: 4px;
}
.cautions {
  border-left: 4px solid var(--stop);
}
.pick {
  display: grid;
  grid-template-columns: 24px 62px minmax(0, 1fr);
  gap: 8px;
  align-items: center;
  border-top: 1px solid var(--line);
  padding: 5px 0;
}
.tick {
  width: 22px;
  height: 22px;
  padding: 0;
  border: 2px solid var(--slate);
  border-radius: 2px;
  background: var(--field);
  color: var(--ink);
  font-size: 16px;
  line-height: 1;
  cursor: pointer;
}
.amount {
  text-align: right;
}
.from {
  color: var(--slate);
  font-size: 12.5px;
}
.what small {
  display: block;
  margin-bottom: 4px;
  font-size: 12.5px;
}
summary {
  display: flex;
  align-items: center;
  min-height: var(--tap);
  font-size: 12.5px;
  cursor: pointer;
}
.lacking {
  color: var(--stop);
  font-size: 12.5px;
}
@media (max-width: 719px) {
  .paper {
    padding: 12px 14px 60px;
  }
  .columns,
  .lists {
    grid-template-columns: minmax(0, 1fr);
    gap: 0;
  }
  .pick {
    min-height: 48px;
    grid-template-columns: 48px 62px minmax(0, 1fr);
  }
  .tick {
    width: 48px;
    height: 44px;
    font-size: 26px;
  }
}
@media print {
  .screen {
    display: none;
  }
  .paper {
    max-width: none;
    padding: 0;
    font-size: 11px;
  }
  .box {
    break-inside: avoid;
    margin-bottom: 6px;
  }
  .lists .box {
    break-inside: auto;
  }
}
</style>
