import { existsSync, realpathSync } from 'node:fs'
import { join } from 'node:path'
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express'
import helmet from 'helmet'
import { arrivingCard } from './arriving-card'
import { type Arrival, streamChanges } from './events'
import { sendEnds, sendFile } from './send'
import { watchCard } from './watch'

/** A folder of files, absolute. */
export interface CardFolder {
  readonly folder: string
  /** Lets the files arrive one after the other, as a stand-in for a card that is being copied. */
  readonly arriving?: boolean
}

export interface AppOptions {
  /** The folder that clips can be taken in from, and the card of the demo. */
  readonly siding: CardFolder
  readonly demo: CardFolder
  /** The built app. */
  readonly dist: string
  /** Host names that are answered besides the loopback's. */
  readonly hosts?: readonly string[]
}

/** The server: the built app, and the siding, read-only. */
export function createApp({ siding, demo, dist, hosts = [] }: AppOptions): Express {
  const app = express()
  app.disable('x-powered-by')
  app.use(checkHost(['127.0.0.1', 'localhost', '[::1]', ...hosts]))
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
          // The component library sets its styles at run time.
          styleSrc: ["'self'", "'unsafe-inline'"],
          workerSrc: ["'self'", 'blob:'],
          imgSrc: ["'self'", 'blob:', 'data:'],
          mediaSrc: ["'self'", 'blob:'],
          fontSrc: ["'self'", 'data:'],
          connectSrc: ["'self'", 'blob:'],
          objectSrc: ["'none'"],
          baseUri: ["'none'"],
          frameAncestors: ["'none'"],
          formAction: ["'self'"],
        },
      },
      crossOriginEmbedderPolicy: { policy: 'require-corp' },
      crossOriginOpenerPolicy: { policy: 'same-origin' },
      crossOriginResourcePolicy: { policy: 'same-origin' },
      strictTransportSecurity: false,
    }),
  )
  for (const [name, { folder, arriving }] of Object.entries({ siding, demo })) {
    const root = existsSync(folder) ? realpathSync(folder) : folder
    const watch = watchCard(root)
    const card = arriving ? arrivingCard() : null
    app.get(`/api/${name}`, async (_request, response) => {
      const { files, bad } = await watch.list()
      response
        .set('Cache-Control', 'no-store')
        .json({ files: files.map(({ path: _, ...file }) => file), bad })
    })
    app.get(`/api/${name}/events`, (request, response) => {
      const copy = typeof request.query.copy === 'string' ? request.query.copy : null
      const arrival: Arrival | null = card && copy !== null ? (files) => card(copy, files) : null
      streamChanges(watch, arrival, request, response)
    })
    app.get(`/api/${name}/ends`, (request, response) => sendEnds(watch, root, request, response))
    app.get(`/api/${name}/:id`, async (request, response) => {
      // Only what the list names can be asked for: a path never comes from outside.
      const file = await watch.find(request.params.id)
      if (file) await sendFile(file, root, request, response)
      else response.status(404).json({ error: 'The card has no such file.' })
    })
  }
  app.use('/api', (_request, response) => void response.status(404).json({ error: 'There is nothing here.' }))
  app.use(
    '/assets',
    express.static(join(dist, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  )
  app.use(express.static(dist, { index: false, maxAge: 0 }))
  app.get('/{*place}', (_request, response) => {
    if (existsSync(join(dist, 'index.html')))
      response.set('Cache-Control', 'no-cache').sendFile('index.html', { root: dist })
    else response.status(503).send('The app is not built yet: run npm start.')
  })
  app.use(answerErrors)
  return app
}

/** Answers only to names that are meant for this machine, so that no page elsewhere can reach the siding by a name of its own. */
function checkHost(known: readonly string[]): RequestHandler {
  return (request, response, next) => {
    const host = (request.headers.host ?? '').replace(/:\d+$/, '').toLowerCase()
    if (known.includes(host)) next()
    else response.status(421).json({ error: `This server does not answer to “${host}”.` })
  }
}

const answerErrors: ErrorRequestHandler = (error, _request, response, next) => {
  if (response.headersSent) return next(error)
  const status = error.statusCode ?? error.status ?? 500
  // Messages of the system name places of this machine: they stay here.
  const said = status === 404 ? 'There is nothing here.' : status < 500 ? 'That was asked for wrongly.' : null
  response.status(status).json({ error: said ?? 'The server could not answer.' })
}
