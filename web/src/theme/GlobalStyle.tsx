import { createGlobalStyle } from 'styled-components'
import { DARK, LIGHT } from './palette'
import { at, length } from './measures'
import { cssVariables } from './theme'

export const GlobalStyle = createGlobalStyle`
  :root { ${cssVariables(LIGHT)} color-scheme: light; }
  :root[data-scheme='dark'] { ${cssVariables(DARK)} color-scheme: dark; }
  *, *::before, *::after { box-sizing: border-box; }
  html { height: 100%; }
  body, #root { min-height: 100vh; }
  body {
    margin: 0;
    background: ${({ theme }) => theme.color.paper};
    color: ${({ theme }) => theme.color.ink};
    font: ${({ theme }) => `${theme.size.body}/1.45 ${theme.font.sans}`};
    /* Clipped, not hidden: hidden would make the body scroll by itself once an overlay locks the page, and lose its place. */
    overflow-x: clip;
  }
  h1, h2, h3, p { margin: 0; }
  a { color: inherit; text-underline-offset: ${length.edge}; }
  :focus-visible { ${({ theme }) => theme.focus} }
  @media ${at.forcedColors} {
    /* Grounds are the system's there: what is chosen tells itself by the system's colour for it. */
    button[data-selected], [role='tab'][data-selected], [aria-pressed='true']:not(:has(svg)),
    [role='option'][data-focused], [role='menuitem'][data-focused] {
      forced-color-adjust: none;
      background: Highlight !important;
      &, & * { color: HighlightText !important; }
      kbd { background: none !important; }
    }
    /* Pictures keep their ground. */
    [aria-pressed='true']:has(svg):not(:focus-visible) {
      outline: ${length.rule} solid Highlight;
      outline-offset: ${length.hair};
    }
  }
  @media (prefers-reduced-motion: reduce) {
    *, *::before, *::after { transition: none !important; animation: none !important; }
  }
`
