import { lazy, Suspense, useEffect, useState } from 'react'
import { RouterProvider as AriaRouter } from 'react-aria-components'
import { Link, NavLink, Outlet, useHref, useLocation, useNavigate } from 'react-router'
import styled from 'styled-components'
import { useTotal } from '../api/useShelf'
import { useWorkshop } from '../api/useWorkshop'
import { currencyNow } from '../format/numbers'
import { useScheme } from '../theme/useScheme'
import { Key } from '../ui/Sheet'
import { findDialog, keysDialog } from './dialogs'
import { Mark } from './Mark'
import { at, length, space } from '../theme/measures'

// Neither is needed before it is asked for.
const FindDialog = lazy(findDialog)
const KeysDialog = lazy(keysDialog)

/** What stands around every view: the stations in the order of the work, find, keys, scheme. */
export function Frame() {
  const navigate = useNavigate()
  const { pathname } = useLocation()
  const [open, setOpen] = useState<'find' | 'keys' | null>(null)
  useScheme()
  useWorkshop()
  const [typed, setTyped] = useState('')
  const unread = useTotal('trials', { read: 'no' })

  const openFind = () => {
    setTyped('')
    setOpen('find')
  }
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement
      if (
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        target.closest('input, textarea, select, [contenteditable], [role=dialog]')
      )
        return
      if (event.key === '/') openFind()
      else if (event.key === '?') setOpen('keys')
      else return
      event.preventDefault()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  // Moving on closes whatever was open.
  useEffect(() => setOpen(null), [pathname])

  return (
    <AriaRouter navigate={(to) => void navigate(to)} useHref={useHref}>
      <SkipLink href="#main">To the content</SkipLink>
      <Bar>
        <Home to="/" aria-label="Tender Bridge, start">
          <Mark />
          <span>Tender Bridge</span>
        </Home>
        <nav aria-label="Stations">
          <NavLink to="/bench">Bench</NavLink>
          <NavLink to="/pairings">Pairings</NavLink>
          <NavLink to="/trials">
            Trials
            {unread > 0 && (
              <sup>
                {unread} <span>to read</span>
              </sup>
            )}
          </NavLink>
          <NavLink to="/parts">Parts</NavLink>
          <NavLink to="/plans">Plans</NavLink>
          <NavLink to="/take-offs">Take-offs</NavLink>
        </nav>
        <span className="gap" />
        <Opener type="button" onClick={openFind}>
          Find anything <Key>/</Key>
        </Opener>
        <Opener type="button" onClick={() => setOpen('keys')} aria-label="Keys and look">
          <Key>?</Key>
        </Opener>
      </Bar>
      {/* Views that tell money are drawn anew when it is told otherwise. */}
      <Outlet key={currencyNow()} />
      <Suspense
        fallback={
          // What is typed before the dialog is there is not lost.
          open === 'find' && (
            <Early
              aria-label="Find"
              autoFocus
              value={typed}
              onChange={({ target }) => setTyped(target.value)}
            />
          )
        }
      >
        {open === 'find' && <FindDialog typed={typed} onClose={() => setOpen(null)} />}
        {open === 'keys' && <KeysDialog onClose={() => setOpen(null)} />}
      </Suspense>
    </AriaRouter>
  )
}

const Early = styled.input`
  position: fixed;
  inset: 0 auto auto 0;
  opacity: 0;
`
const Bar = styled.header`
  min-height: ${length.bar};
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: ${({ theme }) => theme.space.sm};
  padding: 0 ${({ theme }) => theme.space.xl};
  border-bottom: ${({ theme }) => theme.border.line};
  .gap {
    flex: 1;
  }
  nav {
    display: flex;
    height: ${length.bar};
  }
  nav a {
    padding: ${({ theme }) => `0 ${theme.space.l}`};
    display: flex;
    align-items: center;
    position: relative;
    color: ${({ theme }) => theme.color.soft};
    font-size: ${({ theme }) => theme.size.note};
    text-decoration: none;
    white-space: nowrap;
  }
  nav a:hover {
    color: ${({ theme }) => theme.color.ink};
  }
  nav a[aria-current='page'] {
    color: ${({ theme }) => theme.color.ink};
    font-weight: 600;
  }
  nav a[aria-current='page']::after {
    content: '';
    position: absolute;
    left: ${space.l};
    right: ${space.l};
    bottom: -${length.hair};
    height: ${length.edge};
    background: ${({ theme }) => theme.color.damson};
    border-radius: ${({ theme }) => `${theme.radius.xs} ${theme.radius.xs} 0 0`};
    @media ${at.forcedColors} {
      background: Highlight;
    }
  }
  sup {
    font: ${({ theme }) => `${theme.size.tiny} ${theme.font.mono}`};
    color: ${({ theme }) => theme.color.damson};
    margin-left: ${({ theme }) => theme.space.xs};
  }
  @media ${at.phone} {
    padding: 0 ${({ theme }) => theme.space.s};
    nav {
      order: 3;
      width: 100%;
      height: ${length.touch};
      justify-content: space-between;
    }
    nav a {
      padding: ${({ theme }) => `0 ${theme.space.xs}`};
    }
    sup span {
      display: none;
    }
    nav a[aria-current='page']::after {
      left: ${space.s};
      right: ${space.s};
    }
  }
  @media print {
    display: none;
  }
`
const Home = styled(Link)`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.s};
  margin-right: ${({ theme }) => theme.space.xl};
  font: 600 ${({ theme }) => `${theme.size.sentence} ${theme.font.serif}`};
  text-decoration: none;
  white-space: nowrap;
`
const Opener = styled.button`
  border: 0;
  background: none;
  color: ${({ theme }) => theme.color.soft};
  font: ${({ theme }) => `${theme.size.note} ${theme.font.sans}`};
  cursor: pointer;
  padding: ${({ theme }) => `${theme.space.s} ${theme.space.xs}`};
`
const SkipLink = styled.a`
  position: absolute;
  left: ${space.m};
  top: -${length.thumb};
  z-index: 60;
  background: ${({ theme }) => theme.color.sheet};
  padding: ${({ theme }) => `${theme.space.s} ${theme.space.m}`};
  border-radius: ${({ theme }) => theme.radius.s};
  &:focus {
    top: ${space.s};
  }
`
