import { Key, Table } from '../ui/Sheet'

const KEYS: readonly (readonly [string, readonly string[], string])[] = [
  ['Everywhere', ['/'], 'find a part, plan, trial, take-off or filament'],
  ['Everywhere', ['?'], 'these keys'],
  ['Pairings', ['←', '→', '↑', '↓'], 'from pairing to pairing'],
  ['Pairings', ['↵'], 'look closer'],
  ['Reading a trial', ['←', '→', '↑', '↓'], 'from step to step'],
  ['Reading a trial', ['1', '…', '5'], 'how the step looks, how the tile came off'],
  ['Reading a trial', ['Q', 'W', 'E', 'R', 'T'], 'how the face of a tile looks'],
  ['Reading a trial', ['X'], 'keep the reading, leave it out of the answer'],
  ['Reading a trial', ['⌫'], 'take the reading back'],
  ['A part in space', ['←', '→', '↑', '↓'], 'turn the view'],
  ['A part in space', ['+', '-'], 'nearer, farther'],
  ['A part in space', ['1', '…', '5'], 'look from a corner, the front, the side, above, below'],
  ['A part in space', ['0'], 'show all of it'],
  ['A part in space', ['N'], 'to the next island'],
  ['A part in space', ['P'], 'with depth or without'],
  ['Sections and layers of a part', ['[', ']'], 'one layer down or up'],
  ['A value in a plan', ['↑', '↓'], 'one step more or less'],
  ['A value in a plan', ['↵'], 'where it comes from and what it costs'],
  ['A value in a plan', ['⌫'], 'back to what the evidence says'],
  ['A post in a plan', ['↑', '↓'], 'wider or narrower'],
  ['A post in a plan', ['⌫'], 'take it away'],
  ['A plan', ['Ctrl', 'Z'], 'take the last change back; with Shift make it again'],
  ['Drawings of a plan', ['[', ']'], 'one layer down or up'],
  ['Drawings of a plan', ['{', '}'], 'to the island, contact or swap before or after'],
  ['Taking a print off', ['←', '→'], 'from contact to contact'],
  ['Taking a print off', ['1', '…', '5'], 'how the contact came off'],
  ['Taking a print off', ['Q', 'W', 'E', 'R', 'T'], 'how its face looks'],
  ['Taking a print off', ['A', 'S', 'D'], 'nothing, some or all of the interface stayed'],
  ['Taking a print off', ['X'], 'keep it, leave it out of what it teaches'],
  ['A number', [','], 'is a point'],
  ['A length', ['"'], 'what was typed was in inches'],
]

export function KeysTable() {
  return (
    <Table>
      <thead>
        <tr>
          <th>Where</th>
          <th>Key</th>
          <th>What it does</th>
        </tr>
      </thead>
      <tbody>
        {KEYS.map(([where, keys, what], i) => (
          <tr key={what}>
            <td>{KEYS[i - 1]?.[0] === where ? '' : where}</td>
            <td>
              {keys.map((key) => (
                <Key key={key} style={{ marginRight: 3 }}>
                  {key}
                </Key>
              ))}
            </td>
            <td>{what}</td>
          </tr>
        ))}
      </tbody>
    </Table>
  )
}
