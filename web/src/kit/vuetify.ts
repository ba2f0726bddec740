/** What Vuetify's parts are like by themselves, in one place: flat, still, as large as what is in them. */
export const defaults = {
  VBtn: { variant: 'text', ripple: false },
} as const
