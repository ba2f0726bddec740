import { ref } from 'vue'
import type { Entry, JobView, Schemas } from '@/api/types'
import { serverNow } from './clock'
import type { Said } from './judge.worker'

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
  | 'offers'
>

interface Reply {
  error?: string
  errors?: { field: string; message: string }[]
  log?: Entry[]
  assessment?: Assessment
  setting?: Schemas['SettingGuide']
  built?: Schemas['AsBuilt']
}

/** Whether the rules are loaded: what is entered is then judged before it is kept. */
export const rulesReady = ref(false)

let worker: Promise<Worker> | undefined
let asked = 0
const answers = new Map<number, (reply: string) => void>()

function start(): Promise<Worker> {
  return new Promise((done, fail) => {
    const w = new Worker(new URL('./judge.worker.ts', import.meta.url), { type: 'module' })
    const end = (why: string) => {
      w.terminate()
      worker = undefined
      fail(new Error(`the rules are not on this device yet, open it once with signal (${why})`))
    }
    w.onerror = (e) => end(e.message)
    w.onmessage = (e: MessageEvent<Said>) => {
      if ('failed' in e.data) return end(e.data.failed)
      if ('ready' in e.data) {
        rulesReady.value = true
        performance.mark('rules')
        return done(w)
      }
      answers.get(e.data.id)?.(e.data.reply)
      answers.delete(e.data.id)
    }
  })
}

/** Loads the rules ahead, so that the first entry does not wait for them. Does nothing where they cannot be had. */
export const loadRules = () => void (worker ??= start()).catch(() => undefined)

/** Asks the rules on this device: the server's own, compiled for it, loaded when they are first needed. */
export async function judge(request: Omit<Request, 'now'>): Promise<Reply> {
  const w = await (worker ??= start())
  const id = ++asked
  const said = await new Promise<string>((done) => {
    answers.set(id, done)
    w.postMessage({ id, request: JSON.stringify({ ...request, now: serverNow().toISOString() }) })
  })
  const reply = JSON.parse(said) as Reply
  if (reply.error) throw new Error(reply.error)
  return reply
}
