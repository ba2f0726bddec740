import type { Schemas } from '@/api/client'

export type Circuit = Schemas['Circuit'] &
  Required<Pick<Schemas['Circuit'], 'charger' | 'breaker' | 'rcd' | 'cable' | 'earthing' | 'receptacle' | 'end'>> & {
    beyond: Schemas['Beyond'] & Required<Pick<Schemas['Beyond'], 'cable'>>
  }
export type Design = Schemas['Design'] & {
  circuits: Circuit[]
  money: Schemas['Money']
  ahead: Schemas['Ahead']
  beside: Schemas['Beside']
  bonds: Schemas['Bonds']
  building: Schemas['Building']
}

/** Fills in the parts that a new design does not have yet, one circuit for each surveyed point. */
export function designShape(section: Schemas['Design'], points: string[]): Design {
  const circuits = points.map((point) => {
    const c = { ...(section.circuits?.find((x) => x.point === point) ?? { point }) } as Circuit
    c.charger ??= {}
    c.breaker ??= {}
    c.rcd ??= {}
    c.cable ??= {}
    c.beyond = { ...c.beyond, cable: c.beyond?.cable ?? {} }
    c.earthing ??= {}
    c.earthing.loads ??= []
    c.receptacle ??= {}
    c.end ??= {}
    return c
  })
  return {
    ...section,
    money: section.money ?? {},
    ahead: section.ahead ?? {},
    beside: section.beside ?? {},
    bonds: section.bonds ?? {},
    building: section.building ?? {},
    circuits,
  }
}
