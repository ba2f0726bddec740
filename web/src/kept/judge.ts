import type { Entry, JobView, Schemas } from '@/api/types'
import { serverNow } from './clock'

interface Request {
  op: 'assess' | 'add' | 'setting' | 'built'
  job: JobView['job']
  policy: JobView['policy']
  now: string
  writer?: { name: string; verifier: boolean }
  entries?: Entry[]
  point?: string
}

type Assessment = Pick<
  JobView,
  | 'findings'
  | 'spine'
  | 'steps'
  | 'isolation'
  | 'roll'
  | 'time'
  | 'pairs'
  | 'terminals'
  | 'sequences'
  | 'demand'
  | 'ceilings'
>

interface Reply {
  error?: string
  errors?: { field: string; message: string }[]
  log?: Entry[]
  assessment?: Assessment
  setting?: Schemas['SettingGuide']
  built?: Schemas['AsBuilt']
}

declare global {
  var Go: new () => { importObject: WebAssembly.Imports; run(i: WebAssembly.Instance): Promise<void> }
  var dogboltJudge: ((request: string) => string) | undefined
}

let loading: Promise<void> | undefined

async function load() {
  await new Promise<void>((done, fail) => {
    const script = document.createElement('script')
    script.src = '/judge.js'
    script.onload = () => done()
    script.onerror = () => fail(new Error('the rules are not on this device yet: open it once with signal'))
    document.head.append(script)
  })
  const packed = await fetch('/judge.wasm.gz')
  if (!packed.ok || !packed.body) throw new Error('the rules are not on this device yet: open it once with signal')
  const bytes = await new Response(packed.body.pipeThrough(new DecompressionStream('gzip'))).arrayBuffer()
  const go = new Go()
  const { instance } = await WebAssembly.instantiate(bytes, go.importObject)
  void go.run(instance)
}

/** Asks the rules on this device: the server's own, compiled for it, loaded when they are first needed. */
export async function judge(request: Omit<Request, 'now'>): Promise<Reply> {
  loading ??= load().catch((e) => {
    loading = undefined
    throw e
  })
  await loading
  const reply = JSON.parse(dogboltJudge!(JSON.stringify({ ...request, now: serverNow().toISOString() }))) as Reply
  if (reply.error) throw new Error(reply.error)
  return reply
}
