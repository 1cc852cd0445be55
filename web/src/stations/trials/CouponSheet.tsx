import type { TrialInput } from '@tender/contract'
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import styled from 'styled-components'
import { useList } from '../../api/useShelf'
import { counted, duration, grams, money, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Buttons } from '../../ui/Dialog'
import { FormProblem } from '../../ui/FormProblem'
import { saveFile, slug } from '../../ui/saveFile'
import { Num, Sentence, SheetTitle, SoftLine } from '../../ui/Sheet'
import { Skeleton } from '../../ui/Skeleton'
import { unwrap } from '../../workers/answer'
import type { CouponForm, CouponOrder } from '../../workers/couponWork'
import { filing } from '../../workers/geometry'
import { cannotTell, orderOf } from './couponOrder'

/** The coupon of a trial before it is printed: how it looks, what it takes, and the files for the printer. */
export function CouponSheet({ input }: { input: TrialInput }) {
  const printers = useList('printers')
  const filaments = useList('filaments')
  const printer = printers.data?.items.find(({ id }) => id === input.printerId)
  const [part, other] = [input.partFilamentId, input.supportFilamentId].map((id) =>
    filaments.data?.items.find((one) => one.id === id),
  )
  if (!printer || !part || !other) return <Skeleton style={{ height: 260 }} />
  const reason = cannotTell(input, printer, part, other)
  if (reason)
    return (
      <div>
        <SheetTitle as="h3">The coupon</SheetTitle>
        <Sentence>{reason}</Sentence>
      </div>
    )
  return <Made order={orderOf(input, printer, part, other)} />
}

/** The value, once it has rested for a moment. */
function useRested<T>(value: T, ms: number): T {
  const [rested, setRested] = useState(value)
  const key = JSON.stringify(value)
  useEffect(() => {
    const timer = setTimeout(() => setRested(JSON.parse(key) as T), ms)
    return () => clearTimeout(timer)
  }, [key, ms])
  return rested
}

function Made({ order: wanted }: { order: CouponOrder }) {
  const order = useRested(wanted, 350)
  const look = useQuery({
    queryKey: ['coupon', order],
    queryFn: () => unwrap(filing().coupon(order)),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  })
  const file = useMutation({
    mutationFn: async (form: CouponForm) => ({ form, bytes: await unwrap(filing().couponFile(order, form)) }),
    onSuccess: ({ form, bytes }) =>
      saveFile(
        `${slug(order.title)}.${form === 'stl' ? 'stl.zip' : form}`,
        form === 'gcode' ? 'text/plain' : form === '3mf' ? 'model/3mf' : 'application/zip',
        bytes as Uint8Array<ArrayBuffer>,
      ),
  })
  const busy = look.isFetching || JSON.stringify(wanted) !== JSON.stringify(order)
  return (
    <Frame aria-busy={busy}>
      <SheetTitle as="h3">The coupon</SheetTitle>
      {look.isError ? (
        <Sentence role="alert">{look.error.message}</Sentence>
      ) : look.isPending ? (
        <Skeleton style={{ aspectRatio: '760 / 420' }} />
      ) : (
        <>
          <img
            src={look.data.picture}
            alt={`The coupon as it lies on the bed, ${look.data.sizeMm.map((side) => Math.ceil(side)).join(' by ')} millimetres`}
            style={{ opacity: busy ? 0.5 : 1 }}
          />
          <SoftLine>
            <Num>{look.data.sizeMm.map((side) => three(Math.ceil(side))).join(' × ')}</Num> mm,{' '}
            <Num>{duration(look.data.timeS)}</Num>
            {look.data.swaps > 0 && `, ${counted(look.data.swaps, 'swap')}`}
            {look.data.uses.map(({ name, g, cost }) => (
              <span key={name}>
                ; {name} <Num>{grams(g)}</Num> for <Num>{money(cost)}</Num>
              </span>
            ))}
          </SoftLine>
        </>
      )}
      <Buttons>
        {(
          [
            ['3mf', '3MF'],
            ['stl', 'STL'],
            ['gcode', 'G-code'],
          ] as const
        ).map(([form, word]) => (
          <Button
            key={form}
            isDisabled={look.data === undefined || look.isError || file.isPending}
            onPress={() => file.mutate(form)}
          >
            {word}
          </Button>
        ))}
      </Buttons>
      <SoftLine>
        {order.coupon.kind === 'purge'
          ? 'Only the G-code prints the strips in their order. Its swap block must not purge by itself.'
          : 'The G-code prints exactly the speed, layer height and line width written down here, between the printer’s own start and end.'}
      </SoftLine>
      <FormProblem error={file.error} />
    </Frame>
  )
}

const Frame = styled.div`
  display: grid;
  gap: ${({ theme }) => theme.space.s};
  img {
    width: 100%;
    aspect-ratio: 760 / 420;
    object-fit: contain;
    background: ${({ theme }) => theme.color.paper};
    border-radius: ${({ theme }) => theme.radius.s};
    transition: opacity 120ms;
  }
`
