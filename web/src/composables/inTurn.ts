const waiting: (() => void)[] = []
let running = false

/** After the browser has laid out and painted what there is; also where it paints nothing, as in a hidden tab. */
function painted(then: () => void) {
  let frame = 0
  const otherwise = window.setTimeout(() => {
    cancelAnimationFrame(frame)
    then()
  }, 100)
  frame = requestAnimationFrame(() => {
    window.clearTimeout(otherwise)
    window.setTimeout(then)
  })
}

function next() {
  const draw = waiting.shift()
  running = !!draw
  if (!draw) return
  painted(next)
  draw()
}

/**
 * Has parts of a page drawn one after the other: in between the browser lays out, paints and answers taps. What goes on
 * with something comes before what has not begun. Returns how to give it up.
 */
export function inTurn(draw: () => void, goesOn = false): () => void {
  if (goesOn) waiting.unshift(draw)
  else waiting.push(draw)
  if (!running) {
    running = true
    painted(next)
  }
  return () => {
    const i = waiting.indexOf(draw)
    if (i >= 0) waiting.splice(i, 1)
  }
}
