import { existsSync } from 'node:fs'
import { join } from 'node:path'
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express'
import helmet from 'helmet'
import { arrivingCard } from './arriving-card'
import { listSiding } from './siding'

export interface AppOptions {
  /** The folder that clips can be taken in from. */
  readonly siding: string
  /** Lets the siding's files arrive one after the other, as a stand-in for a card that is being copied. */
  readonly arriving?: boolean
  /** The built app. */
  readonly dist: string
  /** Host names that are answered besides the loopback's. */
  readonly hosts?: readonly string[]
}

/** The server: the built app, and the siding, read-only. */
export function createApp({ siding, dist, arriving = false, hosts = [] }: AppOptions): Express {
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
  const list = rememberBriefly(() => listSiding(siding), 500)
  const card = arriving ? arrivingCard() : null
  app.get('/api/siding', async (request, response) => {
    const onCard = await list()
    const copy = typeof request.query.copy === 'string' ? request.query.copy : null
    const files = card && copy ? card(copy, onCard) : onCard
    response.set('Cache-Control', 'no-store').json({ files: files.map(({ path: _, ...file }) => file) })
  })
  app.get('/api/siding/:id', async (request, response) => {
    // Only what the list names can be asked for: a path never comes from outside.
    const file = (await list()).find((f) => f.id === request.params.id)
    if (!file) response.status(404).json({ error: 'The siding has no such file.' })
    else
      response
        .set('Cache-Control', 'no-cache')
        .sendFile(file.path, { acceptRanges: true, lastModified: true })
  })
  app.use('/api', (_request, response) => void response.status(404).json({ error: 'There is nothing here.' }))
  app.use(
    '/assets',
    express.static(join(dist, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  )
  app.use(express.static(dist, { index: false, maxAge: 0 }))
  app.get('/{*place}', (_request, response) => {
    if (existsSync(join(dist, 'index.html')))
      response.set('Cache-Control', 'no-cache').sendFile(join(dist, 'index.html'))
    else response.status(503).send('The app is not built yet: run npm start.')
  })
  app.use(answerErrors)
  return app
}

/** One answer serves all who ask within a short time: reading a card asks for many ranges at once. */
function rememberBriefly<T>(ask: () => Promise<T>, milliseconds: number): () => Promise<T> {
  let answer: Promise<T> | null = null
  return () => {
    if (!answer) {
      answer = ask()
      setTimeout(() => (answer = null), milliseconds).unref()
    }
    return answer
  }
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
  response.status(status).json({ error: status < 500 ? error.message : 'The server could not answer.' })
}
