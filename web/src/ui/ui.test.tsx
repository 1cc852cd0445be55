/** @jest-environment jsdom */
import { beforeEach, describe, expect, jest, test } from '@jest/globals'
import { PretendServer, refusal, show } from '../testing/view'
import { fireEvent, screen, waitFor } from '@testing-library/react'
import { useState } from 'react'
import { ask } from '../api/client'
import { Part } from '@tender/contract'
import { useQuery } from '@tanstack/react-query'
import { useLocation } from 'react-router'
import { aPart } from '../testing/samples'
import { ApiError } from '../api/client'
import { ConflictNote } from './ConflictNote'
import { AngleInput, NumberInput } from './fields'
import { Loaded } from './States'
import { useAddressState } from './useAddressState'

beforeEach(() => {
  localStorage.clear()
  new PretendServer(() => ({ body: null }))
})

describe('numbers typed', () => {
  function Field({
    start,
    min,
    max,
    told,
  }: {
    start: number
    min?: number
    max?: number
    told: (value: number) => void
  }) {
    const [value, setValue] = useState(start)
    return (
      <NumberInput
        label="Gap"
        unit="mm"
        step={0.05}
        min={min}
        max={max}
        value={value}
        onChange={(next) => {
          setValue(next)
          told(next)
        }}
      />
    )
  }
  const typed = async (text: string, more: { min?: number; max?: number } = {}) => {
    const told = jest.fn<(value: number) => void>()
    const { user } = show(<Field start={0.2} told={told} {...more} />)
    const field = screen.getByRole('textbox', { name: 'Gap' })
    await user.clear(field)
    await user.type(field, `${text}{Tab}`)
    return told.mock.calls.at(-1)?.[0]
  }

  test('what is typed is taken when the field is left, and pulled into its range', async () => {
    expect(await typed('0.35')).toBe(0.35)
    document.body.replaceChildren()
    expect(await typed('9', { min: 0, max: 0.5 })).toBe(0.5)
    document.body.replaceChildren()
    expect(await typed('0.01', { min: 0.1, max: 0.5 })).toBe(0.1)
  })

  test('a comma is a point, also from a phone whose keys have no names', async () => {
    const told = jest.fn<(value: number) => void>()
    const { user } = show(<Field start={0.2} told={told} />)
    const field = screen.getByRole<HTMLInputElement>('textbox', { name: 'Gap' })
    await user.tripleClick(field)
    await user.paste('1,25')
    await user.tab()
    expect(told.mock.lastCall).toEqual([1.25])
    await user.clear(field)
    for (const data of ['0', ',', '1', '5']) {
      const before = new InputEvent('beforeinput', { data, bubbles: true, cancelable: true })
      if (fireEvent(field, before)) fireEvent.input(field, { target: { value: field.value + data } })
    }
    await user.tab()
    expect(told.mock.lastCall).toEqual([0.15])
  })

  test('letters cannot be typed into a number', async () => {
    const told = jest.fn<(value: number) => void>()
    const { user } = show(<Field start={0.2} told={told} />)
    const field = screen.getByRole('textbox', { name: 'Gap' }) as HTMLInputElement
    await user.type(field, 'abc{Tab}')
    expect(field.value).toBe('0.2')
    expect(told).not.toHaveBeenCalled()
  })
})

describe('an angle', () => {
  function Angle({ told }: { told: (value: number) => void }) {
    const [value, setValue] = useState(50)
    return (
      <AngleInput
        label="Free angle"
        value={value}
        min={5}
        max={89}
        onChange={(next) => {
          setValue(next)
          told(next)
        }}
      />
    )
  }

  test('is typed either way, always stored from vertical, and the way of typing is remembered', async () => {
    const told = jest.fn<(value: number) => void>()
    const first = show(<Angle told={told} />)
    const field = () => screen.getByRole('textbox', { name: 'Free angle' }) as HTMLInputElement
    expect(field().value).toBe('50')
    await first.user.click(screen.getByRole('radio', { name: 'from bed' }))
    expect(field().value).toBe('40')
    expect(screen.getByText('50° from vertical, 40° from bed')).toBeTruthy()
    await first.user.clear(field())
    await first.user.type(field(), '30{Tab}')
    expect(told).toHaveBeenLastCalledWith(60)
    // Out of range from the bed is out of range from vertical.
    await first.user.clear(field())
    await first.user.type(field(), '88{Tab}')
    expect(told).toHaveBeenLastCalledWith(5)
    first.unmount()
    show(<Angle told={told} />)
    expect(field().value).toBe('40')
  })
})

describe('what a view shows, kept in the address', () => {
  function View() {
    const [values, set] = useAddressState()
    const { search } = useLocation()
    return (
      <>
        <output>{JSON.stringify(values)}</output>
        <code>{search}</code>
        <button
          type="button"
          onClick={() => {
            set({ z: '1' })
            set({ view: 'layer' })
          }}
        >
          Both
        </button>
      </>
    )
  }

  test('two changes at once both count, and others stay', async () => {
    const { user, container } = show(<View />, '/plans/x?lines=1')
    await user.click(screen.getByRole('button', { name: 'Both' }))
    expect(JSON.parse(container.querySelector('output')!.textContent!)).toEqual({
      lines: '1',
      z: '1',
      view: 'layer',
    })
    await waitFor(() => expect(container.querySelector('code')!.textContent).toBe('?lines=1&z=1&view=layer'))
  })
})

describe('waiting, failing, showing', () => {
  function View() {
    return (
      <Loaded query={useQuery({ queryKey: ['one'], queryFn: () => ask('/parts/one', Part) })}>
        {(part) => <p>{part.name}</p>}
      </Loaded>
    )
  }

  test('a read that fails says why and can be tried again', async () => {
    const server = new PretendServer(() => ({ body: aPart() }))
    server.unplugged = true
    const { user, container } = show(<View />)
    expect(container.querySelector('[aria-busy=true]')).not.toBeNull()
    expect((await screen.findByRole('alert')).textContent).toContain('The server does not answer')
    server.unplugged = false
    await user.click(screen.getByRole('button', { name: 'Try again' }))
    expect(await screen.findByText('Vane pivot')).toBeTruthy()
    expect(screen.queryByRole('alert')).toBeNull()
  })

  test('what was there stays when a later read fails', async () => {
    let calls = 0
    new PretendServer(() => (calls++ === 0 ? { body: aPart() } : refusal(500, 'INTERNAL', 'Broken.')))
    const { client } = show(<View />)
    await screen.findByText('Vane pivot')
    await client.refetchQueries({ queryKey: ['one'] })
    expect(screen.getByText('Vane pivot')).toBeTruthy()
  })
})

test('only a refusal because of somebody else’s change comes with advice about it', () => {
  const problem = (code: 'STALE' | 'INVALID') =>
    new ApiError({ type: 'about:blank', title: '', status: 409, code })
  expect(show(<ConflictNote error={problem('STALE')} />).container.textContent).toContain(
    'What you typed is still here',
  )
  expect(show(<ConflictNote error={problem('INVALID')} />).container.textContent).toBe('')
  expect(show(<ConflictNote error={null} />).container.textContent).toBe('')
})

test('inches become millimetres when they are ended as such, within the range, and only where lengths are asked for', async () => {
  const seen: number[] = []
  function Field({ unit }: { unit: string }) {
    const [value, setValue] = useState(1)
    return (
      <NumberInput
        label={unit}
        unit={unit}
        value={value}
        min={0}
        max={100}
        onChange={(next) => {
          seen.push(next)
          setValue(next)
        }}
      />
    )
  }
  const { user } = show(
    <>
      <Field unit="mm" />
      <Field unit="g" />
    </>,
  )
  const [mm, grams] = screen.getAllByRole<HTMLInputElement>('textbox')
  await user.clear(mm)
  await user.type(mm, '0.5in')
  await user.tab()
  expect([seen.at(-1), mm.value]).toEqual([12.7, '12.7'])
  await user.clear(mm)
  await user.type(mm, '9"')
  expect(seen.at(-1)).toBe(100)
  // What is no length has no inches.
  await user.clear(grams)
  await user.type(grams, '2i')
  await user.tab()
  expect(seen.at(-1)).toBe(2)
})
