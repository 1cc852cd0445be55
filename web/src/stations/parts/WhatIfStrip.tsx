import { supportGrams } from '@tender/core/estimate'
import { useState } from 'react'
import styled from 'styled-components'
import { duration, grams, three } from '../../format/numbers'
import { Button } from '../../ui/Button'
import { Num, Sentence, Sheet, SheetTitle, SoftLine } from '../../ui/Sheet'
import { useWhatIf } from '../plans/useWhatIf'
import { usePartSetting } from './PartContext'
import { waysOf, whatHelps } from './whatIf'

/**
 * What the part would need under other layers, another limit, another pose: planned for real, side by side.
 */
export function WhatIfStrip() {
  const { limits, meshKey } = usePartSetting()
  const [asked, setAsked] = useState(false)
  const ways = waysOf(limits.document)
  const summaries = useWhatIf(
    meshKey,
    ways.map(({ document }) => document),
    asked,
    false,
  )
  return (
    <Sheet aria-label="What if">
      <SheetTitle>What if</SheetTitle>
      {!asked ? (
        <>
          <SoftLine>Other layers, another limit, another turn: each planned for real.</SoftLine>
          <Button isDisabled={!meshKey || !limits.ready} onPress={() => setAsked(true)}>
            Work them out
          </Button>
        </>
      ) : (
        <>
          {summaries.every((one) => one !== null) && (
            <Sentence>
              {whatHelps(
                ways.map(({ label }) => label),
                summaries,
              )}
            </Sentence>
          )}
          <Grid role="table" aria-label="Ways compared">
            {ways.map(({ label }, i) => {
              const summary = summaries[i]
              return (
                <div role="row" key={label}>
                  <span role="cell">{label}</span>
                  <span role="cell">
                    {summary ? (
                      <>
                        <Num>{grams(supportGrams(summary.estimate))}</Num>, {duration(summary.timeS)}
                        <SoftLine as="span">
                          {' '}
                          <Num>{three(summary.hangingMm2)}</Num> mm²
                        </SoftLine>
                      </>
                    ) : (
                      <SoftLine as="span">planning ...</SoftLine>
                    )}
                  </span>
                </div>
              )
            })}
          </Grid>
        </>
      )}
    </Sheet>
  )
}

const Grid = styled.div`
  display: grid;
  > div {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: ${({ theme }) => theme.space.s};
    padding: ${({ theme }) => `${theme.space.xs} 0`};
    border-top: ${({ theme }) => theme.border.faint};
  }
  > div > :last-child {
    text-align: right;
  }
`
