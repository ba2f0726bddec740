import { computed, onBeforeUnmount, ref, watch, type Ref } from 'vue'
import { inTurn } from './inTurn'

/** How many lists are still being drawn. What stands below them waits, or it would jump down before one's eyes. */
export const growing = ref(0)

/**
 * A long list of which some lines, which fill most of a phone's first screen, are drawn at once, and as many again in
 * each turn: a tap in between is answered. Once all of it was drawn, all of it is, whatever it grows to.
 */
export function useGradually<T>(list: Ref<T[]>, some: number): Ref<T[]> {
  const drawn = ref(some)
  let underWay = false
  let stop = () => {}
  function begin() {
    underWay = true
    growing.value++
    stop = inTurn(grow, true)
  }
  function grow() {
    drawn.value += some
    if (drawn.value < list.value.length) stop = inTurn(grow, true)
    else end()
  }
  function end() {
    underWay = false
    drawn.value = Infinity
    growing.value--
  }
  if (list.value.length) begin()
  else watch(() => list.value.length > 0, begin, { once: true })
  onBeforeUnmount(() => {
    stop()
    if (underWay) end()
  })
  return computed(() => list.value.slice(0, drawn.value))
}
