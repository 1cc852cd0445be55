import type { Part, PartInput } from '@tender/contract'
import { unplaced } from '@tender/core/mesh'
import type { Zone } from '@tender/core/overhang'
import { useQuery } from '@tanstack/react-query'
import { useCallback, useMemo, useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import styled from 'styled-components'
import { useRemove } from '../../api/useShelf'
import type { Hit } from '../../drawings/space/PartBody'
import { One } from '../../frame/One'
import { Banner } from '../../ui/Banner'
import { Button } from '../../ui/Button'
import { Page } from '../../ui/Page'
import { Tabs } from '../../ui/Tabs'
import { useAddressState } from '../../ui/useAddressState'
import { unwrap } from '../../workers/answer'
import { planning } from '../../workers/geometry'
import type { ReliefReport } from '../../workers/partWork'
import { useMesh } from '../../workers/useMesh'
import { useNeeds } from '../../workers/useNeeds'
import { PlanButton } from '../plans/PlanButton'
import { AboutPanel } from './AboutPanel'
import { LayPanel } from './LayPanel'
import { NeedsPanel } from './NeedsPanel'
import { PartContext, type PartSetting, type Tool } from './PartContext'
import { PartStage } from './stage/PartStage'
import { PoseStrip } from './PoseStrip'
import { ReliefPanel } from './ReliefPanel'
import { usePartDraft } from './usePartDraft'
import { usePartLimits } from './usePartLimits'
import { withDab } from '../../drawings/space/zoneShapes'
import { ZonesPanel } from './ZonesPanel'
import { at, length } from '../../theme/measures'

/** One part: how it lies, what of it needs holding, the maker's zones, other ways out. */
export function PartPage() {
  const { id = '' } = useParams()
  return (
    <One name="parts" id={id}>
      {(part) => <OnePart key={part.id} part={part} />}
    </One>
  )
}

const TABS = ['lay', 'needs', 'zones', 'reshape', 'about'] as const
type TabName = (typeof TABS)[number]

function OnePart({ part }: { part: Part }) {
  const [address, setAddress] = useAddressState()
  const tab = TABS.includes(address.tab as TabName) ? (address.tab as TabName) : 'lay'
  const draft = usePartDraft(part)
  const limits = usePartLimits(draft.draft)
  const [tool, setTool] = useState<Tool>({ kind: 'look' })
  const [measured, setMeasured] = useState<readonly Hit[]>([])
  const [relief, setRelief] = useState<ReliefReport | null>(null)
  const mesh = useMesh(part.meshSha256)
  const remove = useRemove('parts')
  const navigate = useNavigate()
  const { pose, bodies } = draft.draft
  const drawing = useQuery({
    queryKey: ['drawing', part.meshSha256, pose, bodies],
    enabled: mesh.data !== undefined,
    placeholderData: (known) => known,
    gcTime: 0,
    queryFn: () => unwrap(planning().drawing(part.meshSha256, pose, bodies)),
  })
  const faces = useQuery({
    queryKey: ['faces', part.meshSha256, bodies],
    enabled: mesh.data !== undefined,
    staleTime: Infinity,
    queryFn: () => unwrap(planning().faces(part.meshSha256, bodies)),
  })
  const wounds = useQuery({
    queryKey: ['wounds', part.meshSha256, pose, bodies],
    enabled: mesh.data !== undefined && tab === 'about' && part.notes.length > 0,
    gcTime: 0,
    queryFn: () => unwrap(planning().wounds(part.meshSha256, pose, bodies)),
  })
  const needs = useNeeds(limits.ready ? mesh.data : undefined, limits.document)
  const { change } = draft
  const zones = draft.draft.zones as readonly Zone[]
  const setZones = useCallback(
    (next: readonly Zone[], goesOn = false) => change({ zones: next as PartInput['zones'] }, goesOn),
    [change],
  )

  const onPlace = (hit: Hit) => {
    if (tool.kind === 'measure') setMeasured((before) => (before.length >= 2 ? [hit] : [...before, hit]))
    if (tool.kind === 'brush' && drawing.data)
      setZones(withDab(zones, tool.zoneId, unplaced(drawing.data.placing, hit.atMm)), !hit.first)
  }
  const choose = (next: Tool) => {
    setTool(next)
    setMeasured([])
  }
  const setting: PartSetting = {
    ...draft,
    part,
    limits,
    needs,
    drawing: drawing.data,
    meshKey: mesh.data,
    faces: useMemo(() => faces.data ?? [], [faces.data]),
    tool,
    setTool: choose,
    measured,
    relief,
    setRelief,
    zones,
    setZones,
  }
  const failure =
    mesh.isError || drawing.isError
      ? {
          error: (mesh.error ?? drawing.error)!,
          retry: () => void (mesh.isError ? mesh.refetch() : drawing.refetch()),
        }
      : null
  return (
    <PartContext value={setting}>
      <Page
        over={part.fileName}
        title={draft.draft.name}
        actions={
          <>
            <Button
              quiet
              onPress={() => {
                remove.mutate({ id: part.id, name: draft.draft.name })
                void navigate('/parts')
              }}
            >
              Remove
            </Button>
            <Button isDisabled={!draft.canUndo} onPress={draft.undo}>
              Undo
            </Button>
            <PlanButton part={{ ...part, ...draft.draft }} />
          </>
        }
      >
        {draft.problem && <Banner role="alert">Not saved yet. {draft.problem}</Banner>}
        {draft.conflict && (
          <Banner role="alert">
            This part was changed somewhere else, and your change is not saved over it.{' '}
            <Button onPress={draft.takeTheirs}>Take the other one</Button>
          </Banner>
        )}
        {limits.lost && (
          <Banner role="alert">
            What this bench copes with did not arrive: nothing is judged, and the strokes go by a starting
            guess. {limits.lost.error.message} <Button onPress={limits.lost.retry}>Try again</Button>
          </Banner>
        )}
        <Columns>
          <PartStage
            address={address}
            setAddress={setAddress}
            onPlace={onPlace}
            failure={failure}
            {...(tab === 'about'
              ? { wounds: wounds.data ?? null, overlap: needs.needs?.overlap }
              : { wounds: null, overlap: null })}
          />
          <Tabs
            label="About this part"
            value={tab}
            onChange={(next) => {
              setAddress({ tab: next })
              choose({ kind: 'look' })
              setRelief(null)
            }}
            items={[
              { value: 'lay', label: 'Lay', content: <LayPanel /> },
              { value: 'needs', label: 'Needs holding', content: <NeedsPanel setAddress={setAddress} /> },
              { value: 'zones', label: 'Zones', content: <ZonesPanel /> },
              { value: 'reshape', label: 'Reshape', content: <ReliefPanel /> },
              { value: 'about', label: 'About', content: <AboutPanel /> },
            ]}
          />
        </Columns>
        {tab === 'lay' && <PoseStrip />}
      </Page>
    </PartContext>
  )
}

const Columns = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) ${length.xl};
  gap: ${({ theme }) => theme.space.l};
  align-items: start;
  @media ${at.medium} {
    grid-template-columns: minmax(0, 1fr);
  }
`
