import type { Schemas } from '@/api/client'

type Parts =
  | 'supply'
  | 'bonding'
  | 'board'
  | 'dwelling'
  | 'loads'
  | 'vehicles'
  | 'places'
  | 'sitePlan'
  | 'network'
  | 'consent'
  | 'photos'
export type Survey = Schemas['Survey'] & Required<Pick<Schemas['Survey'], Parts>>
export type Board = Schemas['Board'] &
  Required<Pick<Schemas['Board'], 'slots' | 'doublesAt' | 'outbuilding' | 'rearrangement'>>
export type SitePlan = Required<Omit<Schemas['SitePlan'], 'meter' | 'board'>> &
  Pick<Schemas['SitePlan'], 'meter' | 'board'>
export type XY = Schemas['XY']

/** Fills in the parts that a new survey does not have yet. */
export function surveyShape(s: Schemas['Survey']): Survey {
  const full = { ...s } as Survey
  full.supply ??= {}
  full.supply.second ??= {}
  full.bonding ??= {}
  full.board ??= {}
  full.board.slots ??= []
  full.board.doublesAt ??= []
  full.board.outbuilding ??= {}
  full.board.rearrangement ??= {}
  full.dwelling ??= {}
  full.loads ??= []
  full.vehicles ??= []
  full.places ??= []
  full.network ??= {}
  full.consent ??= {}
  full.photos ??= []
  full.sitePlan ??= {}
  const plan = full.sitePlan
  plan.walls ??= []
  plan.doors ??= []
  plan.paths ??= []
  plan.bays ??= []
  plan.obstacles ??= []
  plan.gas ??= []
  plan.positions ??= []
  for (const p of full.places) p.route ??= []
  return full
}

/** Whether the survey has a plan: something is drawn. */
export const drawn = ({ sitePlan: p }: Survey) =>
  !!(p.walls?.length || p.bays?.length || p.positions?.some((q) => q.at))

export type SectionId = Schemas['Section']['id']

/** The section of the survey that a field of the job document stands in. */
export function sectionOf(field: string): SectionId {
  const [section, part, , sub] = field.split('.')
  if (section === 'site') return 'consents'
  const direct: Record<string, SectionId> = {
    supply: 'supply',
    board: 'board',
    loads: 'loads',
    dwelling: 'loads',
    vehicles: 'vehicles',
    sitePlan: 'positions',
    network: 'connectivity',
    consent: 'consents',
    photos: 'photos',
  }
  if (part === 'places') return sub === 'route' ? 'route' : 'positions'
  return direct[part] ?? 'supply'
}
