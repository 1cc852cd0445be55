// What a browser has and the pretended one of view tests lacks. Views only ask whether it is there; what they
// do with it shows in the
// tests of the real interface.
import { webcrypto } from 'node:crypto'
import { TextDecoder, TextEncoder } from 'node:util'
import { deserialize, serialize } from 'node:v8'

class Nothing {
  observe() {}
  unobserve() {}
  disconnect() {}
  postMessage() {}
  addEventListener() {}
  removeEventListener() {}
  close() {}
}

/** What is posted arrives a moment later; unlike a port of Node's it keeps no test from ending. */
class OneWay {
  port1 = { onmessage: null }
  port2 = { postMessage: (data) => void setTimeout(() => this.port1.onmessage?.({ data })) }
}

if (typeof window !== 'undefined') {
  Object.assign(globalThis, {
    TextEncoder,
    TextDecoder,
    structuredClone: (value) => deserialize(serialize(value)),
    Worker: Nothing,
    MessageChannel: OneWay,
    ResizeObserver: Nothing,
    IntersectionObserver: Nothing,
    EventSource: Nothing,
    matchMedia: () => ({ matches: false, addEventListener() {}, removeEventListener() {} }),
    PointerEvent: class extends MouseEvent {},
    CSS: { escape: (text) => text },
  })
  Blob.prototype.arrayBuffer ??= function () {
    return new Promise((resolve) => {
      const reader = new FileReader()
      reader.onload = () => resolve(reader.result)
      reader.readAsArrayBuffer(this)
    })
  }
  Object.defineProperty(globalThis, 'crypto', { value: webcrypto, configurable: true })
}
