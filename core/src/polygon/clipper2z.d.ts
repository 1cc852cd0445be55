declare module 'clipper2-wasm/dist/es/clipper2z.js' {
  /** Starts the engine; typed loosely here because the package ships its types apart from this entry. */
  export default function createClipper(options: object): Promise<unknown>
}
