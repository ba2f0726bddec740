/** On a phone the big keys take the place of the keyboard. */
export const pad = window.matchMedia('(max-width: 719px) and (pointer: coarse)').matches
