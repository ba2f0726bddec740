<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import AnswerField from '@/kit/AnswerField.vue'
import ChoiceField from '@/kit/ChoiceField.vue'
import DateField from '@/kit/DateField.vue'
import NumberField from '@/kit/NumberField.vue'
import FieldGroup from '@/kit/FieldGroup.vue'
import PushButton from '@/kit/PushButton.vue'
import TextField from '@/kit/TextField.vue'
import { computed } from 'vue'

/** One line of the stock. */
const props = defineProps<{ item: Schemas['Ware'] }>()
const emit = defineEmits<{ save: [item: Schemas['Ware']]; drop: [id: string]; close: [] }>()
const form = ref<Schemas['Ware']>({ ...props.item })
const fresh = !props.item.id
const states = [
  { value: 'in-hand', text: 'in hand' },
  { value: 'ordered', text: 'ordered' },
  { value: 'listed', text: 'listed by a supplier' },
] as { value: Schemas['Ware']['state']; text: string }[]
const state = computed({
  get: () => form.value.state as Schemas['Ware']['state'] | undefined,
  set: (v?: Schemas['Ware']['state']) => (form.value.state = v ?? 'in-hand'),
})
const reel = computed({
  get: () => (form.value.reel ? 'yes' : 'no') as 'yes' | 'no' | undefined,
  set: (v?: 'yes' | 'no') => (form.value.reel = v === 'yes'),
})
const expected = computed({
  get: () => form.value.expected,
  set: (v?: string) => (form.value.expected = v || undefined),
})
</script>

<template>
  <form @submit.prevent="emit('save', form)">
    <FieldGroup :title="fresh ? 'New item' : form.id">
      <template #actions>
        <PushButton kind="plain" v-if="!fresh" @click="emit('drop', form.id)">Remove</PushButton>
        <PushButton kind="plain" @click="emit('close')">Close</PushButton>
        <PushButton type="submit">Save</PushButton>
      </template>
      <TextField v-model="form.id" name="item.id" label="Number, on the reel or the box" mono :disabled="!fresh" />
      <TextField v-model="form.name" name="item.name" label="What, as parts lists name it" />
      <ChoiceField v-model="state" name="item.state" label="State" :options="states" />
      <TextField v-model="form.place" name="item.place" label="Where: store, which van" />
      <AnswerField v-model="reel" name="item.reel" label="One piece on a reel?" />
      <NumberField v-model="form.quantity" name="item.quantity" label="How much is there" :unit="form.unit" zero />
      <TextField v-model="form.unit" name="item.unit" label="Unit: m, ft, or none" />
      <TextField v-model="form.supplier" name="item.supplier" label="Supplier" />
      <DateField v-if="form.state === 'ordered'" v-model="expected" name="item.expected" label="Expected" />
    </FieldGroup>
  </form>
</template>
