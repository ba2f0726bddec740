<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import FieldFrame from './FieldFrame.vue'
import LineField from './LineField.vue'

/**
 * A number with its unit. The model is in the document's unit; `scale` is how many of them one shown unit is (0.3048
 * for feet), `zeroAt` what is shown at zero (32 for °F). What is typed stays as typed; words are refused in place.
 */
const props = withDefaults(
  defineProps<{
    name: string
    label: string
    unit?: string
    scale?: number
    zeroAt?: number
    decimals?: number
    hint?: string
    disabled?: boolean
    zero?: boolean
  }>(),
  { scale: 1, zeroAt: 0, decimals: 2 },
)
const model = defineModel<number>()
const show = (v?: number) =>
  v === undefined || v === null || (v === 0 && !props.zero)
    ? ''
    : String(+(v / props.scale + props.zeroAt).toFixed(props.decimals))
const typed = ref(show(model.value))
const wrong = ref('')

// What is typed rules until someone else changes the model.
watch(model, (v) => {
  if (parse(typed.value) !== v) typed.value = show(v)
})
function parse(s: string): number | undefined {
  const t = s.trim()
  return t === '' || !/^-?\d*\.?\d+$/.test(t) ? undefined : (Number(t) - props.zeroAt) * props.scale
}
function input() {
  const t = typed.value.trim()
  const v = parse(t)
  wrong.value = t !== '' && v === undefined ? `“${t}” is not a number: use digits and a point` : ''
  if (!wrong.value) model.value = v
}
const mode = computed(() => (props.decimals === 0 ? 'numeric' : 'decimal'))
</script>

<template>
  <FieldFrame v-slot="{ id, labelledby, bad }" :name="name" :label="label" :hint="hint" :error="wrong">
    <span class="with-unit">
      <LineField
        :id="id"
        v-model="typed"
        :labelledby="labelledby"
        class="figure"
        mono
        :inputmode="mode"
        :disabled="disabled"
        :aria-invalid="bad"
        @update:model-value="input"
      />
      <span v-if="unit" class="unit">{{ unit }}</span>
    </span>
  </FieldFrame>
</template>

<style scoped>
.figure {
  flex: 1;
  text-align: right;
}
.with-unit {
  display: flex;
  align-items: center;
  gap: 6px;
}
.unit {
  color: var(--slate);
  font-size: 13px;
  min-width: 2.2em;
}
</style>
