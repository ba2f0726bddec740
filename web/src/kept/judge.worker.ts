// The rules on this device, away from the page: loading them takes a second or two on a phone, and the page goes on
// meanwhile. What comes in is a numbered request for the rules, what goes out is their answer with its number.
declare const Go: new () => { importObject: WebAssembly.Imports; run(i: WebAssembly.Instance): Promise<void> }
declare const dogboltJudge: (request: string) => string

export type Said = { ready: true } | { failed: string } | { id: number; reply: string }

async function load() {
  const packed = await fetch(new URL('../judge.wasm.gz', location.href))
  if (!packed.ok || !packed.body) throw new Error(`the server answered ${packed.status}`)
  const bytes = await new Response(packed.body.pipeThrough(new DecompressionStream('gzip'))).arrayBuffer()
  await import(/* @vite-ignore */ new URL('../judge.js', location.href).href)
  const go = new Go()
  const { instance } = await WebAssembly.instantiate(bytes, go.importObject)
  void go.run(instance)
}

const say = (s: Said) => postMessage(s)
const loading = load()
loading.then(
  () => say({ ready: true }),
  (e: Error) => say({ failed: e.message }),
)
addEventListener('message', async (e: MessageEvent<{ id: number; request: string }>) => {
  await loading
  let reply: string
  try {
    reply = dogboltJudge(e.data.request)
  } catch (err) {
    reply = JSON.stringify({ error: String(err) }) // whoever asks goes on without a judgement
  }
  say({ id: e.data.id, reply })
})
