import { planPrinter } from '@tender/contract'
import { counted } from '../../../format/numbers'
import { SoftLine } from '../../../ui/Sheet'
import { usePlanSetting } from '../PlanContext'
import { Head, Way } from './cardStyle'

/** On which printer of the bench it is printed. */
export function PrinterCard() {
  const { document, printers, change } = usePlanSetting()
  return (
    <>
      <Head>
        <b>Printer</b>
      </Head>
      {printers.map((one) => (
        <Way
          key={one.id}
          type="button"
          aria-pressed={one.id === document.printer.id}
          onClick={() => change({ printer: planPrinter(one) })}
        >
          <b>{one.name}</b>
          <SoftLine as="span">
            {one.feed === 'nozzles'
              ? `${counted(one.loads, 'nozzle')} of ${one.nozzleMm} mm`
              : `one ${one.nozzleMm} mm nozzle, ${counted(one.loads, 'slot')}`}
          </SoftLine>
        </Way>
      ))}
    </>
  )
}
