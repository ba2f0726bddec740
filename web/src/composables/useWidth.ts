import { useMediaQuery } from '@vueuse/core'

// The widths that pages change at, as in every style: 359, 719 and 1023 px.

/** Whether the page is as narrow as a phone's. */
export const useNarrow = () => useMediaQuery('(max-width: 719px)')
/** Whether the page has room for the rail beside the bench. */
export const useRoomy = () => useMediaQuery('(min-width: 1024px)')
