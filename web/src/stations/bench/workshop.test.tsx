/** @jest-environment jsdom */
import { beforeEach, describe, expect, jest, test } from '@jest/globals'
import type { RestoreReport, Sharing, Workshop as WorkshopState } from '@tender/contract'
import { fireEvent, screen, waitFor } from '@testing-library/react'
import { useWorkshop } from '../../api/useWorkshop'
import { currencyNow, money, setCurrency } from '../../format/numbers'
import { idOf } from '../../testing/samples'
import { PretendServer, refusal, show } from '../../testing/view'
import { MoneyChoice } from './MoneyChoice'
import { ShareWorkshop } from './ShareWorkshop'
import { WorkshopFile } from './WorkshopFile'

beforeEach(() => {
  localStorage.clear()
  setCurrency(null)
})

/** Lets the maker pick a file, as the browser's own dialog would. */
function picking(file: File | null): () => void {
  const click = jest.spyOn(HTMLInputElement.prototype, 'click').mockImplementation(function (
    this: HTMLInputElement,
  ) {
    if (file) {
      Object.defineProperty(this, 'files', { value: [file] })
      fireEvent.change(this)
    } else this.oncancel?.(new Event('cancel'))
  })
  return () => click.mockRestore()
}

describe('the workshop as one file', () => {
  const report: RestoreReport = {
    madeAt: '2026-11-20T08:00:00.000Z',
    tables: {
      printer: { added: 1, replaced: 0, kept: 0, same: 1 },
      plan: { added: 0, replaced: 2, kept: 1, same: 0 },
      blob: { added: 40, replaced: 0, kept: 0, same: 0 },
    },
    renamed: ['Chalk PLA is called Chalk PLA, from the copy now, since another filament here has its name.'],
  }
  const copy = new File(['copy'], 'workshop.jsonl.gz')

  test('a copy is only read at first, told in the words of a maker, and brought in when asked', async () => {
    const server = new PretendServer(() => ({ body: report }))
    const stop = picking(copy)
    const { user } = show(<WorkshopFile />)
    await user.click(screen.getByRole('button', { name: 'Bring a copy in' }))
    stop()
    const dialog = await screen.findByRole('dialog')
    await waitFor(() => expect(dialog.textContent).toContain('1 printer added'))
    expect(dialog.textContent).toContain(
      '2 plans replaced by what was changed later, 1 plan kept, since changed later here',
    )
    expect(dialog.textContent).toContain('from the copy now')
    // Bytes are no matter to a maker.
    expect(dialog.textContent).not.toContain('40')
    expect(server.changes.map(({ path, query }) => `${path}?${query}`)).toEqual(['/backup?trial'])
    await user.click(screen.getByRole('button', { name: 'Bring it in' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(server.changes.at(-1)).toMatchObject({ method: 'POST', path: '/backup', query: '' })
  })

  test('one without news cannot be brought in, one that is refused says why, and none picked asks nothing', async () => {
    let answer: { status?: number; body: unknown } = {
      body: { ...report, tables: { plan: { added: 0, replaced: 0, kept: 1, same: 4 } }, renamed: [] },
    }
    const server = new PretendServer(() => answer)
    const stopNone = picking(null)
    const { user } = show(<WorkshopFile />)
    await user.click(screen.getByRole('button', { name: 'Bring a copy in' }))
    stopNone()
    expect(screen.queryByRole('dialog')).toBeNull()
    expect(server.changes).toEqual([])
    const stop = picking(copy)
    await user.click(screen.getByRole('button', { name: 'Bring a copy in' }))
    expect(await screen.findByText(/Everything in this copy is here already/)).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'Bring it in' })).toBeNull()
    // Both the cross and the button close it.
    await user.click(screen.getAllByRole('button', { name: 'Close' }).at(-1)!)
    answer = refusal(422, 'FILE_REFUSED', 'The copy is cut short: its end is missing. Nothing was changed.')
    await user.click(screen.getByRole('button', { name: 'Bring a copy in' }))
    stop()
    expect(await screen.findByText(/cut short/)).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'Bring it in' })).toBeNull()
  })
})

describe('the phone at the printer', () => {
  const open: Sharing = {
    on: true,
    addresses: ['http://192.0.2.7:4781'],
    code: '048213',
    codeUntil: '2026-11-26T10:00:00.000Z',
    devices: [
      {
        id: idOf(7),
        name: 'Android at 192.0.2.9',
        letInAt: '2026-11-25T08:00:00.000Z',
        seenAt: '2026-11-26T08:00:00.000Z',
      },
    ],
  }
  const shut: Sharing = { ...open, on: false, addresses: [], code: null, codeUntil: null }

  test('opened, it shows where and by which code; a device is put out by name', async () => {
    let state = shut
    const server = new PretendServer(({ method, path, body }) => {
      if (method === 'PUT') state = (body as { on: boolean }).on ? open : shut
      if (method === 'DELETE') state = { ...state, devices: [] }
      return path.startsWith('/sharing') ? { body: state } : { body: null }
    })
    const { user } = show(<ShareWorkshop />)
    expect(await screen.findByText('Android at 192.0.2.9')).toBeTruthy()
    expect(screen.queryByText('048 213')).toBeNull()
    await user.click(screen.getByRole('switch'))
    expect(await screen.findByText('048 213')).toBeTruthy()
    const square = screen.getByRole('img', { name: /^Square code of http:\/\/192\.0\.2\.7:4781/ })
    // Three finders make a square code what it is: cells enough are dark.
    expect(square.querySelector('path')!.getAttribute('d')!.split('M').length).toBeGreaterThan(150)
    await user.click(screen.getByRole('button', { name: 'Put out Android at 192.0.2.9' }))
    await waitFor(() => expect(screen.queryByText('Android at 192.0.2.9')).toBeNull())
    expect(server.changes.map(({ method, path }) => `${method} ${path}`)).toEqual([
      'PUT /sharing',
      `DELETE /sharing/devices/${idOf(7)}`,
    ])
  })

  test('without a network it says so, and a device that was let in sees nothing of it', async () => {
    new PretendServer(() => ({ body: { ...open, addresses: [], devices: [] } }))
    const { unmount } = show(<ShareWorkshop />)
    expect(await screen.findByText(/no address in a local network/)).toBeTruthy()
    unmount()
    const server = new PretendServer(() => refusal(403, 'FORBIDDEN', 'Who is let in is settled elsewhere.'))
    const { container } = show(<ShareWorkshop />)
    await waitFor(() => expect(server.asked.length).toBeGreaterThan(0))
    expect(container.textContent).toBe('')
  })
})

test('money is told in the currency once chosen, remembered for the next start, and plain again when it is taken back', async () => {
  let state: WorkshopState = { currency: null, revision: 0 }
  const server = new PretendServer(({ method, body }) => {
    if (method === 'PUT')
      state = { ...(body as { currency: WorkshopState['currency'] }), revision: state.revision + 1 }
    return { body: state }
  })
  function Both() {
    useWorkshop()
    return <MoneyChoice />
  }
  const { user } = show(<Both />)
  expect(money(3.5)).toBe('3.50')
  await user.click(await screen.findByRole('button', { name: /Prices and costs are in/ }))
  await user.click(screen.getByRole('option', { name: 'Euro, EUR' }))
  await waitFor(() => expect(money(3.5)).toBe('€3.50'))
  expect([currencyNow(), localStorage.getItem('tender.currency')]).toEqual(['EUR', 'EUR'])
  expect(server.changes[0]).toMatchObject({ path: '/workshop', query: '', body: { currency: 'EUR' } })
  await user.click(screen.getByRole('button', { name: /Prices and costs are in/ }))
  await user.click(screen.getByRole('option', { name: /plain numbers/ }))
  await waitFor(() => expect(money(3.5)).toBe('3.50'))
  expect(server.changes[1]).toMatchObject({ query: 'revision=1', body: { currency: null } })
  expect(localStorage.getItem('tender.currency')).toBeNull()
})
