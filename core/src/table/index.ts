export { cellText, csvCell } from './csvCell'
