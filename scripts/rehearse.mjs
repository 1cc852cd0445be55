// npm run rehearse: the stand-in devices alone, on ports of their own, for whoever wants to talk to them or
// to serve them to a server
// started elsewhere. docs/devices.md says what they answer.
import { ensurePackages } from './setup/packages.mjs'
import { runMain, say } from './setup/say.mjs'
import { startStandIns, standInsText } from './setup/standIns.mjs'

const USUAL_PORTS = { printer: 4791, look: 4792, gauge: 4793, scale: 4794 }

await runMain(async () => {
  ensurePackages()
  const { ready, stop } = startStandIns(USUAL_PORTS)
  await ready.catch((error) => {
    stop()
    throw error
  })
  for (const [kind, port] of Object.entries(USUAL_PORTS)) say(`stand-in ${kind}: 127.0.0.1:${port}`)
  say(`A server takes them with TENDER_STAND_INS=${standInsText(USUAL_PORTS)}`)
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'])
    process.on(signal, () => {
      stop()
      process.exit(0)
    })
  // They hold the process; without one of them there is nothing to rehearse with.
  await new Promise(() => setInterval(() => undefined, 3600_000))
})
