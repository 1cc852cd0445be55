import { expect, test } from '@jest/globals'
import { TenderError } from '@tender/core'
import express from 'express'
import request from 'supertest'
import { HttpProblem, problemHandler, withoutValues } from './problem'
import { containing } from './storage/search'

/** The answer to a request whose handler throws. */
async function answerTo(error: unknown) {
  const app = express()
  app.get('/', () => {
    throw error
  })
  app.use(problemHandler)
  return request(app).get('/')
}

test('what is known is told with its status and sentence', async () => {
  expect(
    await answerTo(new HttpProblem('STALE', 'Changed elsewhere.', { current: { revision: 3 } })),
  ).toMatchObject({
    status: 409,
    type: 'application/problem+json',
    body: { code: 'STALE', title: 'Changed elsewhere.', current: { revision: 3 } },
  })
  expect(
    await answerTo(new TenderError('FILE_EMPTY', 'The file is empty: 0 bytes.', { bytes: 0 })),
  ).toMatchObject({
    status: 422,
    body: { code: 'FILE_EMPTY', title: 'The file is empty: 0 bytes.', detail: { bytes: 0 } },
  })
  expect(await answerTo(Object.assign(new Error('too large'), { type: 'entity.too.large' }))).toMatchObject({
    status: 413,
    body: { title: expect.stringContaining('Nothing was stored') },
  })
})

test('what the database says is told in our words, its own stay in the log', async () => {
  const fromDatabase = (code: string) =>
    Object.assign(new Error('insert into "printer" failed'), {
      cause: { code, detail: 'Key (name)=(secret)' },
    })
  for (const [code, status, told] of [
    ['23505', 409, 'NAME_TAKEN'],
    ['23503', 422, 'INVALID'],
    ['23514', 422, 'INVALID'],
    ['53100', 507, 'DISK_FULL'],
    ['22021', 422, 'INVALID'],
    ['57014', 503, 'OFFLINE'],
    ['57P01', 503, 'OFFLINE'],
    ['08006', 503, 'OFFLINE'],
    ['42601', 500, 'INTERNAL'],
  ] as const) {
    const { status: got, body, text } = await answerTo(fromDatabase(code))
    expect([got, body.code]).toEqual([status, told])
    expect(text).not.toMatch(/secret|insert into/)
  }
})

test('anything else is told without its insides', async () => {
  const { status, text } = await answerTo(new Error('password=hunter2'))
  expect(status).toBe(500)
  expect(text).not.toContain('hunter2')
})

test('a search finds what was typed, not what a pattern would', () => {
  expect(containing(' 100%_a\\b ')).toBe('%100\\%\\_a\\\\b%')
})

test('the log learns which statement failed and how, and none of its values', () => {
  const failed = Object.assign(
    new Error('Failed query: insert into mesh values ($1) params: 13 MB of bytes'),
    {
      query: 'insert into mesh values ($1)',
      params: ['13 MB of bytes'],
      cause: { code: '53100', detail: '13 MB of bytes' },
    },
  )
  expect(withoutValues(failed)).toEqual({
    statement: 'insert into mesh values ($1)',
    code: '53100',
    constraint: undefined,
  })
  expect(withoutValues(new Error('plain')).message).toBe('plain')
})
