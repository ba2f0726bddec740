/** Folder of the host that the program is under, such as /dogbolt; empty for the whole host. The server writes it into the page. */
export const base = new URL(document.querySelector('base')?.href ?? '/', location.href).pathname.replace(/\/$/, '')

/** An address of the program's own without that folder. */
export function within(address: string): URL {
  const u = new URL(address, location.href)
  if (base && u.pathname.startsWith(base + '/')) u.pathname = u.pathname.slice(base.length)
  return u
}
