import { servePrinter } from './printer'
import { answerLine, ASKED_OF, type Reader } from './readers'
import { serveLines } from './lines'

const USUAL_SPEED = 300

/**
 * One stand-in device as a process: `main.ts printer|look|gauge|scale [port] [speed]`. Says where it listens,
 * ends with its parent.
 */
const [kind, port = '0', speed = String(USUAL_SPEED)] = process.argv.slice(2)
const isReader = (word: string): word is Reader => word in ASKED_OF
if (kind !== 'printer' && !isReader(kind)) {
  process.stderr.write(`There is no stand-in for ${kind}: printer, ${Object.keys(ASKED_OF).join(', ')}.\n`)
  process.exit(1)
}
const { port: own } = await (kind === 'printer'
  ? servePrinter(Number(port), Number(speed))
  : serveLines(Number(port), (write) => ({
      line: (text) => write(answerLine(text, kind as Reader, Math.random)),
    })))
process.stdout.write(`listening ${own}\n`)
// Whoever started it holds this pipe; without them nobody needs it.
process.stdin.on('end', () => process.exit(0)).resume()
