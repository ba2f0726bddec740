import { base } from '@/base'
import { onBeforeUnmount, ref } from 'vue'

const silent = 'the stand-in does not answer: it needs the server'

/** A WebSocket to one of the stand-ins: what it shows last, and why it is not open. */
export function useStream<T extends object>(shown: (message: T) => void) {
  const open = ref(false)
  const error = ref('')
  let socket: WebSocket | undefined
  let waiting: object[] = [] // orders from before it was open
  function connect(path: string) {
    close()
    error.value = ''
    waiting = []
    socket = new WebSocket(`${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}${base}${path}`)
    socket.onopen = () => {
      open.value = true
      waiting.splice(0).forEach(send)
    }
    socket.onclose = () => (open.value = false)
    socket.onerror = () => (error.value = silent)
    socket.onmessage = (e) => {
      const message = JSON.parse(String(e.data)) as T & { error?: string }
      if (message.error) error.value = message.error
      else shown(message)
    }
  }
  const send = (order: object) => {
    error.value = ''
    if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify(order))
    else if (socket?.readyState === WebSocket.CONNECTING) waiting.push(order)
    else error.value = silent
  }
  function close() {
    socket?.close()
    socket = undefined
  }
  onBeforeUnmount(close)
  return { open, error, connect, send, close }
}
