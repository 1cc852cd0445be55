import { useDeferredValue, useState } from 'react'
import { Autocomplete, Input, Menu, MenuItem, SearchField, useFilter } from 'react-aria-components'
import styled from 'styled-components'
import type { ItemOf, ShelfName } from '../api/shelves'
import { usePages } from '../api/useShelf'
import { Dialog } from '../ui/Dialog'
import { length } from '../theme/measures'

type Place = { readonly id: string; readonly kind: string; readonly name: string }

const ACTIONS: readonly Place[] = [
  { id: '/trials/new/fan', kind: 'do', name: 'Make an overhang fan' },
  { id: '/trials/new/span', kind: 'do', name: 'Make a bridge ladder' },
  { id: '/trials/new/gap', kind: 'do', name: 'Make a gap ladder' },
  { id: '/trials/new/purge', kind: 'do', name: 'Make a purge ladder' },
  { id: '/trials/new/offset', kind: 'do', name: 'Make an offset comb' },
  { id: '/pairings', kind: 'do', name: 'Compare pairings' },
  { id: '/parts', kind: 'do', name: 'Bring in a part' },
  { id: '/bench', kind: 'do', name: 'Change the bench' },
  { id: '/bench/families', kind: 'do', name: 'Change families and clings' },
]

/** What of a shelf is called so, as places to go to. */
function useFound<N extends ShelfName>(
  name: N,
  search: string,
  placeOf: (item: ItemOf<N>) => Place,
): Place[] {
  return usePages(name, { search }).data?.items.map(placeOf) ?? []
}

/** Goes anywhere by name. */
export function FindDialog({ onClose, typed = '' }: { onClose: () => void; typed?: string }) {
  const { contains } = useFilter({ sensitivity: 'base' })
  const [text, setText] = useState(typed)
  const search = useDeferredValue(text)
  const places = [
    ...useFound('plans', search, ({ id, document, partName }) => ({
      id: `/plans/${id}`,
      kind: 'plan',
      name: `${document.name}, ${partName}`,
    })),
    ...useFound('parts', search, ({ id, name }) => ({ id: `/parts/${id}`, kind: 'part', name })),
    ...useFound('trials', search, ({ id, name }) => ({ id: `/trials/${id}`, kind: 'trial', name })),
    ...useFound('takeOffs', search, ({ id, name }) => ({ id: `/take-offs/${id}`, kind: 'take-off', name })),
    ...useFound('filaments', search, ({ id, name }) => ({
      id: `/bench?filament=${id}`,
      kind: 'filament',
      name,
    })),
    ...ACTIONS,
  ]
  return (
    <Dialog title="Find" open onClose={onClose}>
      <Autocomplete inputValue={text} onInputChange={setText} filter={contains}>
        <Field aria-label="Name of a part, plan, trial, take-off or filament" autoFocus>
          <Input placeholder="Name of a part, plan, trial, take-off or filament" />
        </Field>
        <Results
          items={places}
          aria-label="Found"
          renderEmptyState={() => <p>Nothing here is called that.</p>}
        >
          {(place: Place) => (
            <MenuItem href={place.id} onAction={onClose} textValue={`${place.name} ${place.kind}`}>
              <span>{place.name}</span>
              <small>{place.kind}</small>
            </MenuItem>
          )}
        </Results>
      </Autocomplete>
    </Dialog>
  )
}

const Field = styled(SearchField)`
  input {
    width: 100%;
    font: ${({ theme }) => `${theme.size.sentence} ${theme.font.serif}`};
    padding: ${({ theme }) => `${theme.space.s} ${theme.space.m}`};
    color: inherit;
    background: ${({ theme }) => theme.color.paper};
    border: ${({ theme }) => theme.border.line};
    border-radius: ${({ theme }) => theme.radius.s};
  }
`
const Results = styled(Menu)`
  max-height: ${length.xl};
  overflow: auto;
  outline: 0;
  [role='menuitem'] {
    display: flex;
    justify-content: space-between;
    gap: ${({ theme }) => theme.space.m};
    padding: ${({ theme }) => `${theme.space.sm} ${theme.space.md}`};
    border-radius: ${({ theme }) => theme.radius.xs};
    color: inherit;
    text-decoration: none;
    cursor: pointer;
    outline: 0;
  }
  [role='menuitem'][data-focused] {
    background: ${({ theme }) => theme.color.damsonWash};
  }
  small {
    color: ${({ theme }) => theme.color.soft};
  }
` as unknown as typeof Menu
