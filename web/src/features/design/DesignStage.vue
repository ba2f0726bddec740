<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import words from '@/api/words.json'
import { useJob } from '@/composables/useJob'
import { useCountry } from '@/composables/useCountry'
import { useMe } from '@/composables/useMe'
import { useSection } from '@/composables/useSection'
import EmptyState from '@/kit/EmptyState.vue'
import PointTabs from '@/kit/PointTabs.vue'
import SaveState from '@/kit/SaveState.vue'
import AheadPart from './AheadPart.vue'
import BesidePart from './BesidePart.vue'
import BuildingPart from './BuildingPart.vue'
import BondsPart from './BondsPart.vue'
import ArrangementPart from './ArrangementPart.vue'
import CeilingBars from './CeilingBars.vue'
import ChargerPart from './ChargerPart.vue'
import DesignPanel from './DesignPanel.vue'
import DemandPart from './DemandPart.vue'
import EndPart from './EndPart.vue'
import MoneyPart from './MoneyPart.vue'
import JointPart from './JointPart.vue'
import NightPart from './NightPart.vue'
import OneLine from './OneLine.vue'
import OptionsTable from './OptionsTable.vue'
import ProtectionPart from './ProtectionPart.vue'
import SettingPart from './SettingPart.vue'
import WorkPart from './WorkPart.vue'
import { designShape } from './shape'

const opened = useJob()
const route = useRoute()
const { may } = useMe()
const { label, asks } = useCountry()
const points = computed(() => opened.view.job.survey?.places?.map((p) => p.point) ?? [])
const { draft, state, reason, locked, save, retry, clashes, settle, theirs } = useSection('design', (s) =>
  designShape(s, points.value),
)
const point = ref(String(route.query.point ?? points.value[0] ?? ''))
watch(
  () => route.query.point,
  (p) => p && (point.value = String(p)),
)
const index = computed(() => draft.value.circuits.findIndex((c) => c.point === point.value))
const circuit = computed(() => draft.value.circuits[index.value])
/** What a file brought that this country does not ask is shown, to be taken out. */
const entered = (part: object) => Object.values(part).some(Boolean)
const titled = (field: string) => (asks(field) ? label(field) : 'Not of this country')
/** What each part that folds is called, what was decided in it, and which fields it holds. */
const panels = computed(() => {
  const at = (...fields: string[]) => fields.map((f) => `design.circuits.${index.value}.${f}`)
  const { charger, rcd, beyond } = circuit.value!
  const { demand, ceilings } = opened.view
  const ruling = ceilings[point.value]?.find((c) => c.rules)
  const said = (...words: (string | number | false | undefined)[]) => words.filter(Boolean).join(', ')
  return {
    work: {
      id: 'work',
      title: 'What was there',
      line: words.kind.find((k) => k.value === opened.view.kinds[point.value])?.text ?? '',
      fields: at(
        'existing',
        'charger.fate',
        'charger.moved',
        'charger.closes',
        'breaker.fate',
        'rcd.fate',
        'cable.fate',
        'isolatorFate',
        'mended',
      ),
    },
    charger: {
      id: 'charger',
      title: 'Charger',
      line: said(charger.type || 'not chosen', charger.serial),
      fields: at('charger'),
    },
    end: { id: 'end', title: 'Board at the end', line: '', fields: at('end') },
    ceilings: {
      id: 'ceilings',
      title: 'What bounds the setting',
      line: ruling ? `${ruling.title.toLowerCase()}: ${ruling.amps.toFixed(0)} A` : 'not known yet',
    },
    protection: {
      id: 'protection',
      title: label('circuit.protection'),
      line: said(rcd.fitted === 'yes' && `${rcd.tripMa ?? '?'} mA${rcd.type ? ` type ${rcd.type}` : ''}`),
      fields: at('rcd', 'earthing', 'spd', 'isolator', 'receptacle', 'disconnect', 'faultByRcd'),
    },
    ahead: {
      id: 'ahead',
      title: 'Residual device upstream',
      line: draft.value.ahead.type ? `replaced by type ${draft.value.ahead.type}` : `type ${upstream.value} stays`,
      fields: ['design.ahead', 'survey.board.upstreamRcdType'],
    },
    beside: {
      id: 'beside',
      title: titled('design.beside'),
      line:
        draft.value.beside.fitted === 'yes'
          ? said(draft.value.beside.instead === 'yes' ? 'in place of the old one' : 'small', draft.value.beside.where)
          : 'none',
      fields: ['design.beside'],
    },
    bonds: {
      id: 'bonds',
      title: titled('design.bonds'),
      line: said(
        words.bondRun.find((w) => w.value === draft.value.bonds.run)?.text,
        draft.value.bonds.conductor && `earthing conductor ${draft.value.bonds.conductor} mm²`,
      ),
      fields: ['design.bonds', 'survey.bonding'],
    },
    building: {
      id: 'building',
      title: titled('design.building'),
      line: 'put right with this work',
      fields: ['design.building', 'survey.board.outbuilding'],
    },
    options: { id: 'options', title: 'Conductors tried', line: 'every one that could be on this route, side by side' },
    joint: {
      id: 'joint',
      title: 'Joint box on the route',
      line: beyond.from
        ? `from segment ${beyond.from}${beyond.cable.fate === 'new' ? ' on, new' : ''}`
        : beyond.cable.fate === 'new'
          ? 'where the old circuit is carried on'
          : 'none',
      fields: at('beyond'),
    },
    arrangements: {
      id: 'arrangements',
      title: 'Arrangements',
      line: 'each answer tried on this design',
      fields: ['design.sharing', 'design.sharedTo'],
    },
    night: {
      id: 'night',
      title: 'A cold night',
      line: 'what the house and the vehicle take together',
      fields: at('managedTo'),
    },
    demand: {
      id: 'demand',
      title: 'Demand',
      line: demand.missing?.length
        ? `needs: ${demand.missing.join(', ')}`
        : `${demand.total.toFixed(1)} A with the points`,
      fields: ['design.demandMethod', 'design.evInBucket'],
    },
    money: { id: 'money', title: 'Time and money', line: 'tariff, a year, payback', fields: ['design.money'] },
  }
})
/** Of a charger that is taken away only that is asked. */
const goes = computed(() => circuit.value?.charger.fate === 'taken-out')
/** A sub-main: no charger hangs on it. */
const board = computed(() => circuit.value?.connection === 'board')
/** What the survey found upstream, where it found something. */
const upstream = computed(() => {
  const type = opened.view.job.survey?.board?.upstreamRcdType
  return type === 'none' ? undefined : type
})
/** Earthing and bonding is asked where something of it is planned, or is not right as it was found. */
const bonds = computed(
  () =>
    entered(draft.value.bonds) ||
    (asks('design.bonds') && opened.view.findings.some((f) => f.rule === 'bonding' && f.verdict !== 'sound')),
)
/** What is wrong at a building of its own, as found, or is put right. */
const building = computed(
  () =>
    entered(draft.value.building) ||
    (asks('design.building') &&
      Object.entries(opened.view.job.survey?.board?.outbuilding ?? {}).some(
        ([what, is]) => what !== 'apart' && is === 'no',
      )),
)
const off = computed(() => locked.value || !may('save the design'))
</script>

<template>
  <header class="row">
    <h1>
      Design<template v-if="point">, point {{ point }}</template>
    </h1>
    <PointTabs v-model="point" :points="points" panel="point-design" />
    <span class="grow" />
    <SaveState
      :state="state"
      :reason="reason"
      :clashes="clashes"
      :off="off"
      @retry="retry"
      @settle="settle"
      @theirs="theirs"
    />
  </header>
  <EmptyState v-if="!circuit" title="No charging point yet" text="Add one in the survey." />
  <fieldset v-else id="point-design" :key="point" :role="points.length > 1 ? 'tabpanel' : undefined" :disabled="off">
    <DesignPanel
      v-bind="panels.work"
      :point="point"
      :begin="circuit.existing === 'yes' || circuit.charger.fate === 'none'"
    >
      <WorkPart v-model="draft.circuits[index]" :index="index" />
    </DesignPanel>
    <template v-if="!goes">
      <DesignPanel
        v-if="circuit.charger.fate !== 'none'"
        v-bind="panels.charger"
        :point="point"
        :begin="!circuit.charger.type"
      >
        <ChargerPart v-model="draft.circuits[index]" :index="index" />
      </DesignPanel>
      <DesignPanel v-if="board" v-bind="panels.end" :point="point" :begin="true">
        <EndPart v-model="draft.circuits[index]" :index="index" />
      </DesignPanel>
      <div class="two">
        <SettingPart v-model="draft.circuits[index]" :index="index" />
        <OneLine :point="point" />
      </div>
      <DesignPanel v-bind="panels.ceilings" :point="point">
        <CeilingBars :ceilings="opened.view.ceilings[point] ?? []" :setting="circuit.setting" />
      </DesignPanel>
      <DesignPanel v-bind="panels.protection" :point="point">
        <ProtectionPart v-model="draft.circuits[index]" :index="index" />
      </DesignPanel>
      <DesignPanel
        v-if="asks('design.beside') || entered(draft.beside)"
        v-bind="panels.beside"
        :point="point"
        :begin="draft.beside.fitted === 'yes'"
      >
        <BesidePart v-model="draft" />
      </DesignPanel>
      <DesignPanel v-if="building" v-bind="panels.building" :point="point" :begin="true">
        <BuildingPart v-model="draft" />
      </DesignPanel>
      <DesignPanel v-if="bonds" v-bind="panels.bonds" :point="point" :begin="true">
        <BondsPart v-model="draft" />
      </DesignPanel>
      <DesignPanel
        v-if="draft.ahead.type || (upstream && draft.beside.instead !== 'yes')"
        v-bind="panels.ahead"
        :point="point"
        :begin="!!draft.ahead.type"
      >
        <AheadPart v-model="draft" :found="upstream" />
      </DesignPanel>
      <DesignPanel v-bind="panels.options" :point="point">
        <OptionsTable v-model="circuit.cable" v-model:breaker="circuit.breaker" :circuit="circuit" @chosen="save" />
      </DesignPanel>
      <DesignPanel v-bind="panels.joint" :point="point" :begin="circuit.beyond.cable.fate === 'new'">
        <JointPart v-model="draft.circuits[index]" :index="index" />
      </DesignPanel>
      <DesignPanel v-if="!board" v-bind="panels.arrangements" :point="point">
        <ArrangementPart v-model="draft" :point="point" :index="index" @chosen="save" />
      </DesignPanel>
      <DesignPanel v-if="!board" v-bind="panels.night" :point="point">
        <NightPart v-model="draft.circuits" />
      </DesignPanel>
      <DesignPanel v-bind="panels.demand" :point="point">
        <DemandPart v-model="draft" />
      </DesignPanel>
      <DesignPanel v-if="!board" v-bind="panels.money" :point="point">
        <MoneyPart v-model="draft.money" :point="point" />
      </DesignPanel>
    </template>
  </fieldset>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 268px;
  gap: 12px;
  align-items: stretch;
}
@media (max-width: 1023px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
