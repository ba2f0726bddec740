/**
 * What Vuetify's parts are like by themselves, in one place: flat, still, as large as what is in them. Labels, hints
 * and errors stand around a field (FieldFrame); the tick of a checkbox is the browser's own.
 */
export const defaults = {
  VBtn: { variant: 'text', ripple: false },
  VTextField: { variant: 'plain', density: 'compact', hideDetails: true, autocomplete: 'off' },
  VTextarea: { variant: 'plain', density: 'compact', hideDetails: true, noResize: true },
  VCheckboxBtn: { falseIcon: '', trueIcon: '', ripple: false, density: 'compact' },
} as const
