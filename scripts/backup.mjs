// npm run backup -- FILE: the whole workshop as one file. npm run restore -- FILE [--yes]: brings one in;
// without --yes it only tells
// what that would do. Both work beside a running Tender Bridge, and without one.
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  readFileSync,
  renameSync,
  rmSync,
} from 'node:fs'
import { join, resolve } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { startCluster } from './setup/cluster.mjs'
import { takeFolder } from './setup/owner.mjs'
import { ensurePackages } from './setup/packages.mjs'
import { dataFolder } from './setup/paths.mjs'
import { runMain, say, SetupError } from './setup/say.mjs'
import { startServer } from './setup/server.mjs'

await runMain(async () => {
  const [what, ...words] = process.argv.slice(2)
  const isYes = words.includes('--yes')
  const [name, ...more] = words.filter((word) => word !== '--yes')
  if (!name || more.length > 0 || (what === 'backup' && isYes))
    throw new SetupError(
      what === 'backup'
        ? 'Name the file: npm run backup -- FILE'
        : 'Name the file: npm run restore -- FILE [--yes]',
    )
  const file = resolve(name)
  if (what === 'restore' && !existsSync(file)) throw new SetupError(`There is no file ${file}.`)
  ensurePackages()
  const server = await aServer()
  try {
    if (what === 'backup') await backUp(server.url, file)
    else await restore(server.url, file, isYes)
  } finally {
    await server.stop()
  }
})

/** The Tender Bridge of the data folder: the running one, else one of our own that goes again. */
async function aServer() {
  const folder = dataFolder()
  mkdirSync(folder, { recursive: true })
  const giveBack = takeFolder(folder)
  if (!giveBack) {
    const { url } = JSON.parse(readFileSync(join(folder, 'running.json'), 'utf8'))
    return { url, stop: async () => undefined }
  }
  const cluster = process.env.DATABASE_URL
    ? { url: process.env.DATABASE_URL, stop: () => undefined }
    : await startCluster(folder)
  try {
    const { port, child, ended } = await startServer({ databaseUrl: cluster.url, port: 0, demo: false })
    return {
      url: `http://127.0.0.1:${port}`,
      stop: async () => {
        child.kill('SIGTERM')
        await ended
        cluster.stop()
        giveBack()
      },
    }
  } catch (error) {
    cluster.stop()
    giveBack()
    throw error
  }
}

async function backUp(url, file) {
  const answer = await fetch(`${url}/api/backup`)
  if (!answer.ok) throw new SetupError(await sentenceOf(answer))
  // It is there whole or not at all.
  const making = `${file}.part`
  try {
    await pipeline(Readable.fromWeb(answer.body), createWriteStream(making))
    renameSync(making, file)
  } catch (error) {
    throw new SetupError(`The copy could not be written to ${file} (${error.code ?? error.message}).`)
  } finally {
    rmSync(making, { force: true })
  }
  say(`The whole workshop stands in ${file}.`)
}

async function restore(url, file, isYes) {
  const answer = await fetch(`${url}/api/backup${isYes ? '' : '?trial'}`, {
    method: 'POST',
    body: Readable.toWeb(createReadStream(file)),
    duplex: 'half',
    headers: { 'Content-Type': 'application/gzip' },
  })
  if (!answer.ok) throw new SetupError(await sentenceOf(answer))
  const { madeAt, tables, renamed } = await answer.json()
  const sum = (of) => Object.values(tables).reduce((all, counts) => all + counts[of], 0)
  say(`A copy of ${madeAt.slice(0, 16).replace('T', ' ')}.`)
  for (const [table, { added, replaced, kept }] of Object.entries(tables))
    if (added + replaced + kept > 0)
      say(`  ${table}: ${added} added, ${replaced} replaced by a later change, ${kept} kept as here`)
  for (const sentence of renamed) say(`  ${sentence}`)
  if (sum('added') + sum('replaced') === 0) return say('Nothing of it is new here.')
  say(isYes ? 'It is in.' : 'Nothing was changed yet. With --yes it is brought in so.')
}

async function sentenceOf(answer) {
  try {
    return (await answer.json()).title
  } catch {
    return `The server answered ${answer.status}.`
  }
}
