import { ref } from 'vue'

const key = 'person'
const nameKey = 'person-name'
/** The header that says for whom a request is made; the server compares it with the session. */
export const personHeader = 'Dogbolt-Person'

// A tab belongs to who signed in on it, or to whose device it was when it was opened: what another tab does since does
// not make this page speak in another name.
let mine = localStorage.getItem(key) ?? ''
let name = localStorage.getItem(nameKey) ?? ''
let known = false // whether the server has said whose session it is, in this tab

/** Whether another person signed in on this device while this tab was open. The tab then stops. */
export const displaced = ref(false)

const tabs = new BroadcastChannel('dogbolt-person')
tabs.onmessage = (e: MessageEvent<string>) => {
  if (mine) displaced.value = e.data !== mine
}

/** Whose tab it is: an account's id, '' where nobody has signed in. */
export const person = () => mine

/** The name of whose tab it is, to be said where their things wait. */
export const personName = () => name

/** Whether the server has ended this person's session: what is entered waits until they sign in again. */
export const ended = ref(false)
/** Whether the server said that this person's account was closed: the pages shut, and stay shut without signal. */
export const closed = ref(false)

const leftKey = 'signed-out'
/** Whether somebody signed out here without signal: the server has still to be told. */
export const leftWithoutSignal = () => localStorage.getItem(leftKey) !== null
export const rememberLeaving = () => localStorage.setItem(leftKey, '1')
export const leavingTold = () => localStorage.removeItem(leftKey)

function rename(called: string) {
  name = called
  localStorage.setItem(nameKey, called)
}

/** Makes the tab that of who signed in on it, or of nobody, and tells the other tabs. */
export function belong(id: string, called = '') {
  mine = id
  known = id !== ''
  displaced.value = false
  ended.value = false
  closed.value = false
  rename(called)
  if (id) localStorage.setItem(key, id)
  else localStorage.removeItem(key)
  tabs.postMessage(id)
}

/** Takes the session that the server names; false where it is another person's than this tab's. */
export function recognise(id: string, called: string): boolean {
  if (known && id !== mine) displaced.value = true
  else if (id !== mine) belong(id, called)
  else rename(called)
  known = true
  return id === mine
}
