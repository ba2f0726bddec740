<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoomy } from '@/composables/useWidth'
import type { Finding, Verdict } from '@/api/client'
import { useLater } from '@/composables/useLater'
import PushButton from '@/kit/PushButton.vue'
import VerdictMark from '@/kit/VerdictMark.vue'
import { stages, stageTitle } from '@/router'
import RailLine from './RailLine.vue'

/** What stops, what to weigh and what is open: this stage first, then the others in order. */
const props = defineProps<{ findings: Finding[]; stage: string; device?: boolean; wrong?: string }>()
const open = defineModel<boolean>('open')
const emit = defineEmits<{ jump: [Finding]; override: [Finding, string]; take: [Finding, string] }>()
const shown = ref('')
const later = useLater()
// Where it is a drawer its lines are drawn when it is opened.
const wide = useRoomy()
const all = ref(false)

const here = computed(() => props.findings.filter((f) => f.stage === props.stage))
const count = (v: Verdict) => here.value.filter((f) => f.verdict === v && !(v === 'stop' && f.overriddenBy)).length
const groups = computed(() => {
  const out: { title: string; lines: Finding[] }[] = []
  const inWay = here.value.filter((f) => f.verdict === 'stop' || f.verdict === 'open')
  const order = (f: Finding) => (f.verdict === 'stop' ? 0 : 1)
  inWay.sort((a, b) => order(a) - order(b))
  if (inWay.length) out.push({ title: 'In the way', lines: inWay })
  const weigh = here.value.filter((f) => f.verdict === 'watch')
  if (weigh.length) out.push({ title: 'To weigh', lines: weigh })
  const sound = here.value.filter((f) => f.verdict === 'sound')
  if (all.value && sound.length) out.push({ title: 'Meets', lines: sound })
  for (const s of stages) {
    if (s === props.stage) continue
    const lines = props.findings.filter((f) => f.stage === s && f.verdict === 'stop')
    if (lines.length) out.push({ title: `Stops in ${stageTitle(s)}`, lines })
  }
  return out
})
const sound = computed(() => count('sound'))
const key = (f: Finding) => f.rule + '/' + (f.point ?? '')
function toggle(f: Finding) {
  shown.value = shown.value === key(f) ? '' : key(f)
}
</script>

<template>
  <aside class="rail" :class="{ open }" aria-label="Findings">
    <div class="stick">
      <PushButton kind="own" class="tally" :aria-expanded="open" @click="open = !open">
        <span v-if="count('stop')"><VerdictMark verdict="stop" /> {{ count('stop') }} stop</span>
        <span v-if="count('watch')"><VerdictMark verdict="watch" /> {{ count('watch') }} to weigh</span>
        <span v-if="count('open')"><VerdictMark verdict="open" /> {{ count('open') }} open</span>
        <span v-if="!count('stop') && !count('open')"><VerdictMark verdict="sound" /> nothing in the way</span>
      </PushButton>
      <p v-if="device" class="device" data-device>
        Judged on this device with what it has not sent: to be confirmed by the server.
      </p>
      <p v-if="wrong" class="error" role="alert">{{ wrong }}</p>
      <div v-if="later && (wide || open)" class="lines">
        <template v-for="g in groups" :key="g.title">
          <h2 class="minor">{{ g.title }}</h2>
          <RailLine
            v-for="f in g.lines"
            :key="key(f)"
            :finding="f"
            :open="shown === key(f)"
            @toggle="toggle(f)"
            @jump="emit('jump', f)"
            @override="(r) => emit('override', f, r)"
            @take="(answer) => emit('take', f, answer)"
          />
        </template>
        <PushButton kind="own" v-if="sound" class="more" @click="all = !all">
          {{ all ? 'hide what meets' : `show ${sound} that ${sound === 1 ? 'meets' : 'meet'}` }}
        </PushButton>
      </div>
    </div>
  </aside>
</template>

<style scoped>
.device {
  border-left: 4px solid var(--watch);
  padding-left: 8px;
  font-size: 12.5px;
  margin-bottom: 8px;
}
.rail {
  border-left: 1px solid var(--line);
  background: var(--rail);
}
.stick {
  padding: 14px;
  position: sticky;
  top: 0;
  max-height: 100vh;
  overflow-y: auto;
  box-sizing: border-box;
}
.tally {
  font: inherit;
  font-size: 13.5px;
  color: var(--ink);
  background: none;
  border: 0;
  padding: 0;
  display: flex;
  gap: 14px;
  flex-wrap: wrap;
}
.tally span {
  display: flex;
  gap: 6px;
  align-items: center;
}
.more {
  font: inherit;
  font-size: 13px;
  color: var(--copper);
  background: none;
  border: 0;
  padding: 12px 0;
  cursor: pointer;
}
@media (max-width: 1023px) {
  .rail {
    position: fixed;
    left: 0;
    right: 0;
    bottom: 0;
    top: auto;
    border-left: 0;
    border-top: 1px solid var(--line);
    z-index: 8;
    box-shadow: 0 -3px 12px rgb(0 0 0 / 18%);
  }
  .stick {
    max-height: 75vh;
    padding: 0 14px;
  }
  .tally {
    width: 100%;
    min-height: 48px;
    align-items: center;
  }
  .lines {
    padding-bottom: 16px;
  }
}
</style>
