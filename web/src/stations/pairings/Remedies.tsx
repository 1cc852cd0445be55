import type { ReleaseChain } from '@tender/core/release'
import { SheetTitle, SoftLine, Table } from '../../ui/Sheet'

/** What would make the interface come along, the cheapest first. */
export function Remedies({ chain }: { chain: ReleaseChain }) {
  if (chain.remedies.length === 0) return null
  return (
    <>
      <SheetTitle as="h3" style={{ marginTop: 10 }}>
        What helps, the cheapest first
      </SheetTitle>
      <Table>
        <thead>
          <tr>
            <th>Change</th>
            <th>costs</th>
            <th>alone enough</th>
          </tr>
        </thead>
        <tbody>
          {chain.remedies.map(({ sentence, price, cures }) => (
            <tr key={sentence}>
              <td>{sentence}</td>
              <td>
                <SoftLine as="span">{price}</SoftLine>
              </td>
              <td>{cures ? <b>yes</b> : 'not alone'}</td>
            </tr>
          ))}
        </tbody>
      </Table>
    </>
  )
}
