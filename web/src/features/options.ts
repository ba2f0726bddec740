import type { Schemas } from '@/api/client'
import words from '@/api/words.json'

/** Words for the values of the job document, as the fields show them. */
export interface Option<T> {
  value: T
  text: string
}
const list = <T extends string>(words: Record<T, string>): Option<T>[] =>
  (Object.entries(words) as [T, string][]).map(([value, text]) => ({ value, text }))

/** What becomes of a thing, of which there is a choice. */
export const fates = (...of: Fate[]) => words.fate.filter((w) => of.includes(w.value as Fate)) as Option<Fate>[]
type Fate = NonNullable<Schemas['Charger']['fate']>
export const mendedParts = words.mended as Option<NonNullable<Schemas['Mended']['part']>>[]
export const kinds = words.kind as Option<NonNullable<Schemas['NewInputBody']['kind']>>[]

type Kind = Schemas['Load']['kind']

export const phases = [
  { value: 1, text: 'single phase' },
  { value: 3, text: 'three phase' },
] as Option<1 | 3>[]
export const loadKinds = list<Kind>({
  lighting: 'lighting',
  sockets: 'socket circuit',
  cooker: 'cooker, range',
  shower: 'instantaneous shower',
  tankless: 'tankless water heater',
  'water-heater': 'stored water heater',
  heating: 'electric heating',
  'storage-heat': 'storage or floor heating',
  'heat-pump': 'heat pump, without its extra heater',
  cooling: 'air conditioning',
  dryer: 'dryer',
  motor: 'pump, motor',
  other: 'other fixed appliance',
  ev: 'another charging point',
})
export const inlets = list<NonNullable<Schemas['Vehicle']['inlet']>>({
  'front-left': 'front, left corner',
  'front-centre': 'front, centre',
  'front-right': 'front, right corner',
  'left-front': 'left side, front wing',
  'right-front': 'right side, front wing',
  'rear-left': 'rear, left corner',
  'rear-centre': 'rear, centre',
  'rear-right': 'rear, right corner',
})
export const attitudes = list<NonNullable<Schemas['Vehicle']['attitude']>>({
  'nose-in': 'nose in',
  'tail-in': 'tail in',
})
export const rcdTypes = list<NonNullable<Schemas['RCD']['type']>>({ AC: 'AC', A: 'A', F: 'F', B: 'B' })
export const upstream = list<NonNullable<Schemas['Board']['upstreamRcdType']>>({
  none: 'none upstream',
  AC: 'type AC',
  A: 'type A',
  F: 'type F',
  B: 'type B',
})
export const openPen = words.openPen as Option<NonNullable<Schemas['PointEarthing']['openPen']>>[]
export const spd = words.spd as Option<NonNullable<Schemas['Circuit']['spd']>>[]
export const connections = list<NonNullable<Schemas['Circuit']['connection']>>({
  'hard-wired': 'hard-wired',
  receptacle: 'receptacle',
  board: 'sub-main or feeder',
})
export const outlets = list<NonNullable<Schemas['Charger']['outlet']>>({ tethered: 'fixed cord', socket: 'socket' })
export const curves = list<NonNullable<Schemas['Breaker']['curve']>>({ B: 'B', C: 'C', D: 'D' })
export const earths = words.earth as Option<NonNullable<Schemas['Cable']['earth']>>[]
export const metals = list<NonNullable<Schemas['Cable']['material']>>({ copper: 'copper', aluminium: 'aluminium' })
export const befores = list<NonNullable<Schemas['Paper']['before']>>({
  order: 'ordering anything',
  booking: 'setting a day',
  installing: 'installing',
  covering: 'covering up',
  energising: 'switching on',
  sealing: 'sealing',
  after: 'nothing, comes after',
})
export const supplies = list<NonNullable<Schemas['Part']['supply']>>({
  listed: 'listed by a supplier',
  ordered: 'ordered',
})
export const conditions = list<NonNullable<Schemas['Supply']['condition']>>({
  sound: 'sound',
  doubtful: 'doubtful',
})

export const networks = list<NonNullable<Schemas['Network']['kind']>>({
  wifi: 'wireless network',
  wired: 'cable',
  mobile: 'mobile network',
  none: 'no network',
})
export const signals = list<NonNullable<Schemas['Network']['signal']>>({ good: 'good', weak: 'weak', none: 'none' })
export const layouts = list<NonNullable<Schemas['Board']['layout']>>({
  rows: 'ways in rows',
  columns: 'two columns, odd left',
})
export const fedFroms = list<NonNullable<Schemas['Board']['fedFrom']>>({
  service: 'the service itself',
  'sub-main': 'a sub-main',
})
export const linkKinds = list<Schemas['Link']['kind']>({
  tails: 'tails, service conductors',
  'main-switch': 'another main switch',
  busbar: 'another busbar',
  'residual-device': 'residual device',
  'feeder-device': 'device of the sub-main',
  'feeder-cable': 'cable of the sub-main',
})
export const bonded = list<NonNullable<Schemas['Bonding']['gas']>>({
  bonded: 'bonded',
  'not-bonded': 'not bonded',
  plastic: 'enters in plastic',
  none: 'not there',
})
export const bondings = {
  gas: 'Gas',
  water: 'Water',
  oil: 'Oil',
  steel: 'Structural steel',
  other: 'Anything else metal',
} as const
export const enclosures = (
  ['1', '2', '3', '3R', '3S', '3X', '3RX', '3SX', '4', '4X', '5', '6', '6P', '12', '12K', '13'] as const
).map((value) => ({ value, text: value })) as Option<NonNullable<Schemas['Charger']['enclosure']>>[]
export const minutes = [15, 30, 60].map((n) => ({ value: n, text: `${n} min` })) as Option<15 | 30 | 60>[]
export const schedules = [40, 80].map((n) => ({ value: n, text: String(n) })) as Option<40 | 80>[]
export const breakerPoles = [1, 2, 3, 4].map((n) => ({ value: n, text: String(n) })) as Option<1 | 2 | 3 | 4>[]
export const poles = [1, 2, 3].map((n) => ({ value: n, text: String(n) })) as Option<1 | 2 | 3>[]
export const covers = list<NonNullable<Schemas['Position']['cover']>>({
  open: 'open',
  porch: 'porch',
  indoors: 'indoors',
})
export const fixings = list<NonNullable<Schemas['Position']['fixing']>>({
  brick: 'brick',
  stud: 'stud',
  concrete: 'concrete',
  timber: 'timber',
  post: 'a post',
  doubtful: 'doubtful',
})
export const positionSignals = list<NonNullable<Schemas['Position']['signal']>>({
  good: 'good',
  weak: 'weak',
  none: 'none',
  wired: 'by cable',
})
export const unders = list<NonNullable<Schemas['Segment']['under']>>({
  garden: 'garden',
  drive: 'drive',
  street: 'street, public parking',
})
export const photoKinds = list<Schemas['Photo']['kind']>({
  label: "board's label",
  'board-closed': 'board, closed',
  'board-open': 'board, open',
  meter: 'meter and cutout',
  position: 'position',
  route: 'route',
  parking: 'parking',
  other: 'something else',
})
export const boxes = list<NonNullable<Schemas['Receptacle']['box']>>({
  '4-1.5': '4 in square, 1½ in deep',
  '4-2.125': '4 in square, 2⅛ in deep',
  '4.69-1.5': '4¹¹⁄₁₆ in square, 1½ in deep',
  '4.69-2.125': '4¹¹⁄₁₆ in square, 2⅛ in deep',
})
/** An answer of the schedule of inspections, in words; choices are words already. */
export const inspectionText = (value: string) => words.inspection.find((o) => o.value === value)?.text ?? value
export const classes = [1, 2, 3].map((n) => ({ value: n, text: `class ${n}` })) as Option<1 | 2 | 3>[]

export const languages = [
  { value: 'en' as const, text: 'English' },
  { value: 'es' as const, text: 'español' },
]

/** Whether a supply is a source of its own, never joined to the network. */
export const own = (system?: Schemas['Supply']['system']) => system === 'island' || system === 'island-120240'
