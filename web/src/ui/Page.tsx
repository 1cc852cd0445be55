import { useEffect, type ReactNode } from 'react'
import styled from 'styled-components'

/** Title line of a view: what it belongs to, its name, what can be done. */
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

const Main = styled.main`
  display: flex;
  flex-direction: column;
  gap: ${({ theme }) => theme.space.m};
  padding: ${({ theme }) => `14px ${theme.space.xl} ${theme.space.xl}`};
  max-width: 1720px;
  width: 100%;
  margin: 0 auto;
  min-height: 0;
  @media (max-width: 640px) {
    padding: ${({ theme }) => theme.space.m};
  }
`
const Lead = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: flex-end;
  gap: ${({ theme }) => `${theme.space.s} 18px`};
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
