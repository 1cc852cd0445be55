import { useEffect, type ReactNode } from 'react'
import styled from 'styled-components'
import { at, length, space } from '../theme/measures'
import { Skeleton } from './Skeleton'

/**
 * Title line of a view: what it belongs to, its name, what can be done.
 * @param fill the view takes the height of the window, where that has room; what may shrink does
 */
export function Page({
  over,
  title,
  aside,
  actions,
  children,
  fill,
}: {
  over?: ReactNode
  title: string
  aside?: ReactNode
  actions?: ReactNode
  children: ReactNode
  fill?: boolean
}) {
  useEffect(() => {
    document.title = `${title} · Tender Bridge`
  }, [title])
  return (
    <Main id="main" data-fill={fill || undefined}>
      <Lead>
        <div>
          {over && <Over>{over}</Over>}
          <h1>{title}</h1>
        </div>
        {aside}
        <span className="gap" />
        {actions}
      </Lead>
      {children}
    </Main>
  )
}

/** A view whose content is on its way. */
export function WaitingPage() {
  return (
    <Main id="main" aria-busy="true" data-fill>
      <Skeleton style={{ width: length.l, height: length.control }} />
      <Skeleton style={{ height: length.xxl }} />
    </Main>
  )
}

const Main = styled.main`
  display: flex;
  flex-direction: column;
  gap: ${({ theme }) => theme.space.m};
  padding: ${({ theme }) => `${space.l} ${theme.space.xl} ${theme.space.xl}`};
  max-width: ${length.page};
  width: 100%;
  margin: 0 auto;
  min-height: 0;
  @media ${at.phone} {
    padding: ${({ theme }) => theme.space.m};
  }
  @media ${at.roomy} {
    &[data-fill] {
      height: calc(100vh - ${length.bar} - ${length.hair});
    }
  }
`
const Lead = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: ${({ theme }) => `${theme.space.s} ${space.xl}`};
  h1 {
    font: 500 ${({ theme }) => `${theme.size.title}/1.2 ${theme.font.serif}`};
  }
  .gap {
    flex: 1;
  }
`
const Over = styled.div`
  font-size: ${({ theme }) => theme.size.small};
  color: ${({ theme }) => theme.color.soft};
`
