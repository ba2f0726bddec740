/** A quantity without idle decimals: 48.5, 12. */
export const amount = (v: number) => String(+v.toFixed(2))
