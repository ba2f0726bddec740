import { computed, onBeforeUnmount, ref, type Ref } from 'vue'

const first = 3 // with their heads they fill most of a phone's first screen
const more = 3

/** How many lists are still being drawn. What stands below them waits, or it would jump down before one's eyes. */
export const growing = ref(0)

/**
 * A long list of which the first lines are drawn at once, the others a few at a time: a tap in between is answered. Once
 * all of it was drawn, all of it is, whatever it grows to.
 */
export function useGradually<T>(list: Ref<T[]>): Ref<T[]> {
  const drawn = ref(first)
  growing.value++
  let timer = window.setTimeout(function grow() {
    drawn.value += more
    if (drawn.value < list.value.length) timer = window.setTimeout(grow)
    else end()
  })
  const end = () => {
    if (drawn.value === Infinity) return
    drawn.value = Infinity
    growing.value--
  }
  onBeforeUnmount(() => {
    window.clearTimeout(timer)
    end()
  })
  return computed(() => list.value.slice(0, drawn.value))
}
