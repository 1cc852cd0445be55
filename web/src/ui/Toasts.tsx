import { X } from 'lucide-react'
import { createContext, use, useCallback, useMemo, useRef, useState, type ReactNode } from 'react'
import styled from 'styled-components'
import { Button } from './Button'
import { space } from '../theme/measures'

export type Toast = {
  readonly text: string
  readonly action?: { readonly label: string; readonly run: () => void }
}
type Shown = Toast & { readonly key: number }

const ToastContext = createContext<{ show(toast: Toast): void }>({ show: () => undefined })

/** Short news at the lower edge, each with one thing that can be done about it. */
export const useToasts = () => use(ToastContext)

const SHOWN_MS = 12_000

export function ToastProvider({ children }: { children: ReactNode }) {
  const [shown, setShown] = useState<readonly Shown[]>([])
  const next = useRef(0)
  const close = useCallback((key: number) => setShown((all) => all.filter((one) => one.key !== key)), [])
  const show = useCallback(
    (toast: Toast) => {
      const key = next.current++
      setShown((all) => [...all.slice(-2), { ...toast, key }])
      setTimeout(() => close(key), SHOWN_MS)
    },
    [close],
  )
  const context = useMemo(() => ({ show }), [show])
  return (
    <ToastContext value={context}>
      {children}
      <Pile role="region" aria-label="News" aria-live="polite">
        {shown.map(({ key, text, action }) => (
          <Slip key={key}>
            <span>{text}</span>
            {action && (
              <Button
                onPress={() => {
                  action.run()
                  close(key)
                }}
              >
                {action.label}
              </Button>
            )}
            <Button quiet aria-label="Close" onPress={() => close(key)}>
              <X size={15} aria-hidden />
            </Button>
          </Slip>
        ))}
      </Pile>
    </ToastContext>
  )
}

const Pile = styled.div`
  position: fixed;
  left: 50%;
  bottom: ${({ theme }) => theme.space.xl};
  transform: translateX(-50%);
  display: grid;
  gap: ${({ theme }) => theme.space.s};
  z-index: 50;
  max-width: calc(100vw - ${space.xxl});
`
const Slip = styled.div`
  display: flex;
  align-items: center;
  gap: ${({ theme }) => theme.space.m};
  padding: ${({ theme }) => `${theme.space.s} ${theme.space.l}`};
  background: ${({ theme }) => theme.color.sheet};
  border: ${({ theme }) => theme.border.line};
  border-radius: ${({ theme }) => theme.radius.m};
  box-shadow: ${({ theme }) => theme.floats};
`
