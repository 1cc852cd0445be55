import { tender } from './tender'

await tender(process.argv.slice(2))
