import { randomUUID } from 'node:crypto'
import pg from 'pg'
import { pino } from 'pino'
import { createApp } from '../app'
import { openDatabase } from '../storage/database'

/** The whole server on a database of its own, in the cluster that the test command started. */
export async function aServer() {
  const url = process.env.TEST_DATABASE_URL
  if (!url) throw new Error('Server tests need TEST_DATABASE_URL; npm test sets it.')
  const name = `test_${randomUUID().replaceAll('-', '')}`
  const admin = new pg.Client({ connectionString: url })
  await admin.connect()
  await admin.query(`create database ${name}`)
  const own = new URL(url)
  own.pathname = `/${name}`
  const { db, close } = await openDatabase(own.href)
  return {
    db,
    url: own.href,
    app: createApp({ db, log: pino({ level: 'silent' }), webFolder: null }),
    close: async () => {
      await close()
      await admin.query(`drop database ${name} with (force)`)
      await admin.end()
    },
  }
}
