/** The rules that live in pages too, for a test of the program: cases as JSON on stdin, what they come to on stdout. */
import { createServer } from 'vite'
import { text } from 'node:stream/consumers'

const server = await createServer({
  configFile: false,
  logLevel: 'error',
  server: { middlewareMode: true },
  appType: 'custom',
})
const { lookedAt } = await server.ssrLoadModule('/src/logic/checkupRule.ts')
const { rule, cases } = JSON.parse(await text(process.stdin))
process.stdout.write(JSON.stringify(cases.map(({ known, findings }) => lookedAt(rule, known, findings))))
await server.close()
