// styled-components offers ES modules only to bundlers; Node's way of taking its other form hides the default
// export.
import all from 'styled-components/dist/styled-components.browser.cjs.js'

export default all.default
export const { createGlobalStyle, css, keyframes, styled, ThemeProvider, useTheme } = all
