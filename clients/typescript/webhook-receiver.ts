// A receiver that prints each message: WEBHOOK_SECRET=whsec_... node webhook-receiver.mjs [PORT]
// Give its address to Gate Mile under Release, Webhooks.
import { createServer } from 'node:http'
import { GateMileWebhooks, Refused } from './gate-mile-webhooks.ts'

const webhooks = new GateMileWebhooks(process.env['WEBHOOK_SECRET'] ?? '')

const server = createServer((request, response) => {
  const parts: Buffer[] = []
  request.on('data', (part: Buffer) => parts.push(part))
  request.on('end', () => {
    webhooks
      .read((name) => request.headers[name]?.toString(), Buffer.concat(parts).toString('utf8'))
      .then(
        ({ type, timestamp, data }) => {
          console.log(`${type} at ${timestamp}: ${JSON.stringify(data)}`)
          return 204
        },
        (error: unknown) => {
          if (!(error instanceof Refused)) throw error
          console.log(`Refused: ${error.message}`)
          return error.again ? 204 : 400
        },
      )
      .then((status) => response.writeHead(status).end(), () => response.writeHead(500).end())
  })
})

server.listen(Number(process.argv[2] ?? 4190), '127.0.0.1', () => {
  const address = server.address()
  if (address && typeof address === 'object') console.log(`Listening on http://127.0.0.1:${address.port}`)
})
