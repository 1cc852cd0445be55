// Jest runs modules in a context whose globals are looked up the slow way, a hundred times slower than usual.
// Numeric code asks for Math and Infinity in its innermost loops, so each module gets these names as its own;
// on the first line, so that line numbers stay.
const { createTransformer } = require('@swc/jest')

const OWN =
  'const { Infinity, Math, Number, Float64Array, Float32Array, Uint32Array, Int32Array, Uint8Array }' +
  ' = globalThis;'

module.exports = {
  createTransformer(options) {
    const swc = createTransformer(options)
    const own = ({ code, ...rest }) => ({ code: OWN + code, ...rest })
    return {
      ...swc,
      process: (...args) => own(swc.process(...args)),
      processAsync: async (...args) => own(await swc.processAsync(...args)),
      getCacheKey: (...args) => swc.getCacheKey(...args) + OWN,
    }
  },
}
