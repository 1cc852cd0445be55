import { branchesSomewhere, leansSomewhere } from '@tender/core/decide'
import type { Contact } from '@tender/core/plan'
import { Redo2, Undo2 } from 'lucide-react'
import { memo } from 'react'
import styled from 'styled-components'
import { counted } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Sheet, SheetTitle } from '../../ui/Sheet'
import { Exceptions } from './Exceptions'
import { Paragraph } from './Paragraph'
import { usePlanSetting } from './PlanContext'
import { ChoiceToken, FilamentToken, NumberToken, PrinterToken } from './Token'
import { TowerToken } from './TowerToken'

type Props = {
  /** The underside that is looked at. */
  chosen: Contact | null
}

/** The decisions of a plan as a letter; every value is a token with its reason behind it. */
export const Letter = memo(function Letter({ chosen }: Props) {
  const { document, past } = usePlanSetting()
  const { decisions, printer } = document
  const mayRest = decisions.placement === 'anywhere'
  const hasTower = decisions.purgeWhere === 'tower'
  const touching = document.exceptions.flatMap(({ standFilament, interfaceFilament }) => [
    standFilament,
    interfaceFilament,
  ])
  const used = [decisions.partFilament, decisions.standFilament, decisions.interfaceFilament, ...touching]
  const swapping = new Set(used.filter((one) => one !== undefined)).size > 1
  return (
    <Text aria-label="How this part is held">
      <Head>
        <SheetTitle>How this part is held</SheetTitle>
        <Button
          quiet
          aria-label="Take back the last change"
          isDisabled={!past.undo}
          onPress={past.undo ?? undefined}
        >
          <Undo2 size={15} aria-hidden />
        </Button>
        <Button quiet aria-label="Change it again" isDisabled={!past.redo} onPress={past.redo ?? undefined}>
          <Redo2 size={15} aria-hidden />
        </Button>
      </Head>
      <Paragraph
        about="the part itself"
        decides={[
          'partFilament',
          'layerHeightMm',
          'firstLayerHeightMm',
          'lineWidthMm',
          'walls',
          'wallsFrom',
          'skinLayers',
          'fillDensity',
          'fanPercent',
          'fanOffLayers',
        ]}
      >
        On <PrinterToken then="," /> print the part in <FilamentToken name="partFilament" /> with{' '}
        <NumberToken name="layerHeightMm" /> layers, <NumberToken name="firstLayerHeightMm" /> the first, and{' '}
        <NumberToken name="lineWidthMm" /> lines: <NumberToken name="walls" /> walls,{' '}
        <ChoiceToken name="wallsFrom" then="," /> <NumberToken name="skinLayers" /> solid layers,{' '}
        <NumberToken name="fillDensity" /> fill, the fan at <NumberToken name="fanPercent" /> from{' '}
        <NumberToken name="fanOffLayers" /> on.
      </Paragraph>
      <Paragraph
        about="what is held"
        decides={['supports', 'freeAngleDeg', 'freeSpanMm', 'bridgeMmS', 'bridgeFanPercent', 'placement']}
      >
        Hold <ChoiceToken name="supports" /> <NumberToken name="freeAngleDeg" /> from vertical
        {decisions.sideAnglesDeg ? ', each side by a limit of its own' : ''}; bridges of{' '}
        {decisions.freeSpanMm > 0 && 'up to '}
        <NumberToken name="freeSpanMm" /> stay free, laid at <NumberToken name="bridgeMmS" /> with the fan at{' '}
        <NumberToken name="bridgeFanPercent" then="." />
        {document.zones.length > 0 &&
          ` ${counted(document.zones.length, 'zone')} of your own ${document.zones.length === 1 ? 'counts' : 'count'} first.`}
        {decisions.supports && (
          <>
            {' '}
            Stands may rest on <ChoiceToken name="placement" then="." />
          </>
        )}
      </Paragraph>
      {decisions.supports && (
        <>
          <Paragraph
            about="what it is made of"
            decides={['standFilament', 'interfaceFilament', 'supportFanPercent']}
          >
            Fill the stands with <FilamentToken name="standFilament" then="," /> and touch the part with{' '}
            <FilamentToken name="interfaceFilament" then="," /> the fan at{' '}
            <NumberToken name="supportFanPercent" then="." />
          </Paragraph>
          <Paragraph about="gaps" decides={['upperGapMm', 'lowerGapMm', 'sideGapMm']}>
            Leave <NumberToken name="upperGapMm" /> above
            {mayRest && (
              <>
                , <NumberToken name="lowerGapMm" /> below
              </>
            )}{' '}
            and <NumberToken name="sideGapMm" /> beside.
          </Paragraph>
          <Paragraph
            about="interface layers"
            decides={[
              'interfaceLayers',
              'interfaceLines',
              'interfaceSpacingMm',
              'interfaceDirection',
              'stackMode',
              'lowerInterfaceLayers',
            ]}
          >
            End each stand with <NumberToken name="interfaceLayers" /> layers of{' '}
            <ChoiceToken name="interfaceLines" /> lines, <NumberToken name="interfaceSpacingMm" then="," />{' '}
            laid <ChoiceToken name="interfaceDirection" /> the part’s first lines,{' '}
            <ChoiceToken name="stackMode" then={mayRest ? ';' : '.'} />
            {mayRest && (
              <>
                {' '}
                where it rests on the part begin with <NumberToken name="lowerInterfaceLayers" then="." />
              </>
            )}
          </Paragraph>
          <Paragraph
            about="stands"
            decides={[
              'standKind',
              'branches',
              'standLines',
              'standDensity',
              'denseTopMm',
              'denseTopDensity',
              'standWalls',
              'marginMm',
              'thickStands',
              'supportSpanMm',
              'leanDeg',
            ]}
          >
            Build <ChoiceToken name="standKind" /> stands
            {branchesSomewhere(document) && (
              <>
                , branches <ChoiceToken name="branches" />
              </>
            )}
            {leansSomewhere(document) && (
              <>
                , leaning at most <NumberToken name="leanDeg" then="," />
              </>
            )}{' '}
            of <ChoiceToken name="standLines" /> lines at <NumberToken name="standDensity" then="," />{' '}
            <NumberToken name="denseTopMm" /> denser
            {decisions.denseTopMm > 0 && (
              <>
                {' '}
                at <NumberToken name="denseTopDensity" />
              </>
            )}
            , with <NumberToken name="standWalls" /> {decisions.standWalls === 1 ? 'wall' : 'walls'},{' '}
            <NumberToken name="marginMm" /> wider than what they hold, in layers{' '}
            <ChoiceToken name="thickStands" then=";" /> no line of theirs spans more than{' '}
            <NumberToken name="supportSpanMm" then="." />
          </Paragraph>
          <Paragraph about="feet" decides={['footingLines', 'brimLines']}>
            On the bed give them <NumberToken name="footingLines" /> lines of footing, and the part{' '}
            <NumberToken name="brimLines" /> of brim.
          </Paragraph>
          {swapping && (
            <Paragraph
              about="swaps"
              decides={['purgeMm3', 'purgeAwayMm3', 'purgeInto', 'purgeWhere', 'towerAtMm']}
            >
              {SWAP_WORDS[printer.feed]} <NumberToken name="purgeMm3" /> before the part and{' '}
              <NumberToken name="purgeAwayMm3" /> before supports. <ChoiceToken name="purgeInto" then=";" />{' '}
              {decisions.purgeInto === 'nothing' ? 'what is purged' : 'the rest'} goes{' '}
              <ChoiceToken name="purgeWhere" then={hasTower ? undefined : '.'} />
              {hasTower && (
                <>
                  {' '}
                  <TowerToken />
                </>
              )}
            </Paragraph>
          )}
        </>
      )}
      <Exceptions chosen={chosen} />
    </Text>
  )
})

/**
 * What a swap asks for: a shared nozzle is purged, one beside the other oozes and is wiped, one on a carriage
 * of its own is only primed.
 */
const SWAP_WORDS = { nozzles: 'Wipe and prime with', carriages: 'Prime with', changer: 'Purge' } as const

const Head = styled.div`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.xs};
  h2 {
    flex: 1;
  }
`
const Text = styled(Sheet)`
  font: 400 ${({ theme }) => `${theme.size.lead}/1.62 ${theme.font.serif}`};
  p {
    margin: ${({ theme }) => `0 0 ${theme.space.xs}`};
  }
  h2 {
    margin-bottom: ${({ theme }) => theme.space.sm};
  }
`
