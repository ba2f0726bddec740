export {}

const breath = () => new Promise((r) => window.setTimeout(r))

// What every page begins with comes in files that the page asks for at once (vite.config.ts). Each runs by itself: in
// between the browser draws and answers.
for (const { href } of document.querySelectorAll<HTMLLinkElement>('link[rel=modulepreload]')) {
  await breath()
  await import(/* @vite-ignore */ href)
}
const { begin } = await import('./start')
await begin(breath)
