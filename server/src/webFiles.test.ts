import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, test } from '@jest/globals'
import express from 'express'
import request from 'supertest'
import { webFiles } from './webFiles'

const folder = mkdtempSync(join(tmpdir(), 'tender-web-'))
mkdirSync(join(folder, 'assets'))
for (const [name, text] of [
  ['index.html', '<main>'],
  ['.stamp', 'ours'],
  ['mark.svg', '<svg/>'],
  ['assets/app-abc.js', 'app()'],
  ['assets/geometry.worker-abc.js', 'work()'],
])
  writeFileSync(join(folder, name), text)
afterAll(() => rmSync(folder, { recursive: true }))

describe('the files of the built interface', () => {
  const app = express().disable('etag').use(webFiles(folder))

  test('what is named after its contents may be kept for good, and a worker has a policy of its own', async () => {
    const code = await request(app).get('/assets/app-abc.js').expect(200, 'app()')
    expect(code.headers).toMatchObject({
      'content-type': 'text/javascript; charset=utf-8',
      'cache-control': expect.stringContaining('immutable'),
    })
    expect(code.headers).not.toHaveProperty('content-security-policy')
    const worker = await request(app).get('/assets/geometry.worker-abc.js').expect(200)
    expect(worker.headers['content-security-policy']).toContain("'unsafe-eval'")
  })

  test('the rest is asked about each time, and sent anew only when it is another', async () => {
    const { headers } = await request(app)
      .get('/mark.svg')
      .expect(200)
      .expect('content-type', 'image/svg+xml')
    expect(headers['cache-control']).toBe('no-cache')
    await request(app).get('/mark.svg').set('If-None-Match', headers.etag).expect(304)
    await request(app).get('/mark.svg').set('If-None-Match', '"older"').expect(200)
  })

  test('every other address is a view; nothing else of the folder, or above it, is shown', async () => {
    for (const path of ['/', '/plans/7?layer=3', '/.stamp', '/assets/%2e%2e/%2e%2e/package.json'])
      await request(app).get(path).expect(200, '<main>').expect('content-type', 'text/html; charset=utf-8')
    await request(app).head('/assets/app-abc.js').expect(200).expect('content-length', '5')
    await request(app).post('/mark.svg').expect(404)
  })
})
