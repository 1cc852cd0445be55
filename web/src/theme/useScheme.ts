import { useEffect, useSyncExternalStore } from 'react'
import { DARK, LIGHT, type Palette } from './palette'

export type SchemeChoice = 'system' | 'light' | 'dark'
const KEY = 'tender.scheme'
const dark = window.matchMedia('(prefers-color-scheme: dark)')
const listeners = new Set<() => void>()
const tell = () => listeners.forEach((listener) => listener())
dark.addEventListener('change', tell)
window.addEventListener('storage', tell)

function choice(): SchemeChoice {
  const stored = localStorage.getItem(KEY)
  return stored === 'light' || stored === 'dark' ? stored : 'system'
}
const isDark = () => (choice() === 'system' ? dark.matches : choice() === 'dark')
const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => void listeners.delete(listener)
}

/** The scheme in force, and the maker's choice of it. */
export function useScheme() {
  const scheme = useSyncExternalStore(subscribe, () => (isDark() ? 'dark' : 'light'))
  const chosen = useSyncExternalStore(subscribe, choice)
  useEffect(() => {
    document.documentElement.dataset.scheme = scheme
  }, [scheme])
  const choose = (next: SchemeChoice) => {
    if (next === 'system') localStorage.removeItem(KEY)
    else localStorage.setItem(KEY, next)
    tell()
  }
  return { scheme, chosen, choose } as const
}

/** Colours as values, for what cannot read CSS variables: charts and shaders. */
export const usePalette = (): Palette => (useScheme().scheme === 'dark' ? DARK : LIGHT)
