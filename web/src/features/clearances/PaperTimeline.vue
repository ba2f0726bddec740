<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { dayText, monthText } from '@/kit/dates'
import { stateWords } from './usePapers'

/** The papers of a job on one line of time: sent, expected, answered, due, sent back. */
const props = defineProps<{ bars: Schemas['Span'][]; today: string; day?: string }>()
const shown = computed(() => props.bars.filter((b) => b.state !== 'not-needed' && (b.from || b.done || b.due)))
const number = (day: string) => Date.parse(day + 'T00:00:00Z') / 86_400_000
const days = computed(() => {
  const all = [props.today, props.day ?? props.today]
  for (const b of shown.value)
    all.push(...[b.from, b.low, b.high, b.done, b.due, ...b.back].filter((d): d is string => !!d))
  const list = all.map(number)
  return { first: Math.min(...list) - 3, last: Math.max(...list) + 3 }
})
const left = 250
const width = 760
const x = (day: string) =>
  left + ((number(day) - days.value.first) / (days.value.last - days.value.first)) * (width - left - 12)
const y = (i: number) => 38 + i * 26
const height = computed(() => y(shown.value.length) + 4)
/** First days of months, with room between their names. */
const months = computed(() => {
  const out: { day: string; text: string }[] = []
  const d = new Date(days.value.first * 86_400_000)
  d.setUTCDate(1)
  const step = days.value.last - days.value.first > 240 ? 2 : 1
  for (
    d.setUTCMonth(d.getUTCMonth() + 1);
    d.getTime() / 86_400_000 <= days.value.last;
    d.setUTCMonth(d.getUTCMonth() + step)
  )
    out.push({
      day: d.toISOString().slice(0, 10),
      text: monthText(d),
    })
  return out
})
const short = (t: string) => (t.length > 36 ? t.slice(0, 35) + '…' : t)
const words = (b: Schemas['Span']) =>
  [
    `${b.title}: ${stateWords[b.state]}`,
    b.from && b.state !== 'to-send' && b.state !== 'sent-back' ? `sent ${dayText(b.from)}` : '',
    b.low && b.high ? `answer expected ${dayText(b.low)} to ${dayText(b.high)}${b.note ? ', ' + b.note : ''}` : '',
    b.done ? `answered ${dayText(b.done)}` : '',
    b.due ? `due ${dayText(b.due)}` : '',
    ...b.back.map((d) => `sent back ${dayText(d)}`),
  ]
    .filter(Boolean)
    .join('; ')
</script>

<template>
  <figure v-if="shown.length" class="card">
    <figcaption class="row">
      <h2>Line of time</h2>
      <span class="quiet">band: answer expected · flag: due · cross: sent back</span>
    </figcaption>
    <svg class="drawing" :viewBox="`0 0 ${width} ${height}`" role="img" :aria-label="shown.map(words).join('. ')">
      <g v-for="m in months" :key="m.day">
        <line :x1="x(m.day)" :x2="x(m.day)" y1="20" :y2="height" class="month" />
        <text :x="x(m.day) + 4" y="14" class="quiet">{{ m.text }}</text>
      </g>
      <g v-for="(b, i) in shown" :key="b.paper">
        <title>{{ words(b) }}</title>
        <text x="0" :y="y(i) + 4">{{ short(b.title) }}</text>
        <rect
          v-if="b.low && b.high"
          :x="x(b.low)"
          :width="Math.max(4, x(b.high) - x(b.low))"
          :y="y(i) - 6"
          height="12"
          class="expected"
          :class="b.state"
        />
        <line
          v-if="b.from"
          :x1="x(b.from)"
          :x2="x(b.done ?? b.low ?? b.from)"
          :y1="y(i)"
          :y2="y(i)"
          class="run"
          :class="b.state"
        />
        <circle v-if="b.from" :cx="x(b.from)" :cy="y(i)" r="4" class="sent" :class="b.state" />
        <path v-if="b.done" :d="`M${x(b.done) - 5} ${y(i)}l4 5 7 -10`" class="done" />
        <path v-for="d in b.back" :key="d" :d="`M${x(d) - 4} ${y(i) - 4}l8 8m0 -8l-8 8`" class="back" />
        <path v-if="b.due" :d="`M${x(b.due)} ${y(i) + 8}v-16l9 4 -9 4`" class="due" />
      </g>
      <g>
        <line :x1="x(today)" :x2="x(today)" y1="20" :y2="height" class="today" />
        <text :x="x(today) + 4" :y="28" class="now">today</text>
      </g>
      <g v-if="day">
        <line :x1="x(day)" :x2="x(day)" y1="20" :y2="height" class="work" />
        <text :x="x(day) - 4" :y="28" text-anchor="end" class="now">work</text>
      </g>
    </svg>
  </figure>
</template>

<style scoped>
figure {
  margin: 12px 0 0;
}
.month {
  stroke: var(--line);
}
.today {
  stroke: var(--copper);
  stroke-width: 1.6;
}
.work {
  stroke: var(--ink);
  stroke-width: 1.6;
  stroke-dasharray: 5 3;
}
.drawing .now {
  font-size: 10.5px;
  fill: var(--ink2);
}
.expected {
  fill: var(--band);
  stroke: var(--slate);
  stroke-width: 0.8;
}
.expected.overdue {
  fill: var(--stop-soft);
  stroke: var(--stop);
}
.expected.to-send,
.expected.sent-back {
  fill: none;
  stroke-dasharray: 3 2;
}
.run {
  stroke: var(--slate);
  stroke-width: 2;
}
.run.to-send,
.run.sent-back {
  stroke-dasharray: 2 3;
}
.sent {
  fill: var(--slate);
}
.sent.to-send,
.sent.sent-back {
  fill: var(--card);
  stroke: var(--slate);
}
.done {
  fill: none;
  stroke: var(--sound);
  stroke-width: 2.6;
}
.back {
  stroke: var(--stop);
  stroke-width: 2.4;
}
.due {
  fill: var(--watch-mark);
  stroke: var(--watch);
}
</style>
