import type { Schemas } from '@/api/client'

export type Survey = Schemas['SurveySheet'] &
  Required<Pick<Schemas['SurveySheet'], 'supply' | 'board' | 'dwelling' | 'loads' | 'vehicles' | 'places'>>

/** Fills in the parts that a new survey does not have yet. */
export function surveyShape(s: Schemas['SurveySheet']): Survey {
  const full = { ...s } as Survey
  full.supply ??= {}
  full.board ??= {}
  full.dwelling ??= {}
  full.loads ??= []
  full.vehicles ??= []
  full.places ??= []
  for (const p of full.places) p.route ??= []
  return full
}
