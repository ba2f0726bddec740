<script setup lang="ts">
import { useJob } from '@/composables/useJob'
import { useSection } from '@/composables/useSection'
import FieldGroup from '@/kit/FieldGroup.vue'
import SaveState from '@/kit/SaveState.vue'
import MendedFields from '../design/MendedFields.vue'
import { designShape } from '../design/shape'

/** What is mended, of each charger that stays: where it is the charger alone, less is asked below. */
defineProps<{ off: boolean }>()
const opened = useJob()
const { draft, state, reason, retry, clashes, settle, theirs } = useSection('design', (s) =>
  designShape(s, opened.view.job.survey?.places?.map((p) => p.point) ?? []),
)
const mends = (point: string) => opened.view.kinds[point] === 'repair'
</script>

<template>
  <fieldset :disabled="off" data-repair>
    <template v-for="(c, i) in draft.circuits" :key="c.point">
      <FieldGroup v-if="mends(c.point)" :title="draft.circuits.length > 1 ? `Repair, point ${c.point}` : 'Repair'">
        <template #actions>
          <SaveState
            :state="state"
            :reason="reason"
            :clashes="clashes"
            :off="off"
            @retry="retry"
            @settle="settle"
            @theirs="theirs"
          />
        </template>
        <MendedFields v-model="draft.circuits[i]!" :index="i" />
      </FieldGroup>
    </template>
  </fieldset>
</template>
