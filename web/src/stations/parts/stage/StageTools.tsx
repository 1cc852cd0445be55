import styled from 'styled-components'
import { length, space } from '../../../theme/measures'
import { Button } from '../../../ui/Button'
import { NumberInput, Segments } from '../../../ui/fields'
import { HachureLegend } from '../HachureLegend'
import { usePartSetting } from '../PartContext'
import type { Height } from './useHeight'

export type StageView = 'space' | 'section' | 'layer'

/** How the part is looked at, and where it is cut. */
export function StageTools({
  view,
  cut,
  height,
  steepestDeg,
  setAddress,
}: {
  readonly view: StageView
  readonly cut: { readonly directionDeg: number; readonly atMm: number }
  readonly height: Height
  readonly steepestDeg: number
  readonly setAddress: (changes: Record<string, string>) => void
}) {
  const { tool, setTool } = usePartSetting()
  return (
    <Tools>
      <Segments
        label="Drawing"
        hideLabel
        value={view}
        onChange={(next) => setAddress({ view: next })}
        options={[
          { value: 'space', label: 'In space' },
          { value: 'section', label: 'Section' },
          { value: 'layer', label: 'Layer' },
        ]}
      />
      {view === 'space' && (
        <Button
          aria-pressed={tool.kind === 'measure'}
          onPress={() => setTool(tool.kind === 'measure' ? { kind: 'look' } : { kind: 'measure' })}
        >
          Measure
        </Button>
      )}
      {view === 'section' && (
        <>
          <Narrow>
            <NumberInput
              label="Cut turned by"
              unit="°"
              value={cut.directionDeg}
              step={15}
              min={-360}
              max={360}
              onChange={(value) => Number.isFinite(value) && setAddress({ turn: String(value) })}
            />
          </Narrow>
          <Narrow>
            <NumberInput
              label="Beside the middle"
              unit="mm"
              value={cut.atMm}
              step={1}
              min={-2000}
              max={2000}
              onChange={(value) => Number.isFinite(value) && setAddress({ at: String(value) })}
            />
          </Narrow>
        </>
      )}
      {view !== 'space' && (
        <Narrow>
          <NumberInput
            label="Height"
            unit="mm"
            value={Number(height.zMm.toFixed(2))}
            step={height.layerMm}
            min={0}
            max={height.topMm}
            onChange={(value) => Number.isFinite(value) && height.setZ(value)}
          />
        </Narrow>
      )}
      <HachureLegend limitDeg={steepestDeg} />
    </Tools>
  )
}

const Tools = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${({ theme }) => `${space.sm} ${theme.space.m}`};
  padding: ${({ theme }) => `${theme.space.s} ${theme.space.m}`};
  border-bottom: ${({ theme }) => theme.border.faint};
`
const Narrow = styled.div`
  width: ${length.s};
`
