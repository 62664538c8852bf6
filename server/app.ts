/** The HTTP side: the app's files, the remote API, the streaming site. */
import { join } from 'node:path';
import compressedStatic from 'express-static-gzip';
import express, { type ErrorRequestHandler, type Express, type Request, type Response } from 'express';
import { isTooDeep } from '#core/schema/depth';
import { DATA } from '#standins/data/results-data';
import { type PierServers } from '#standins/devices/servers';
import { addresses } from './addresses/router';
import { type GuardOptions, isEncrypted, judge, lanAddresses, needsTls, tokenOf } from './guard';
import { Ingest, IngestError, streamFile } from './output/ingest';
import { intake } from './output/intake';
import { httpPeers } from './peers/router';
import { NoHostError } from './remote/host-line';
import { type Panels } from './remote/panels';
import { type Relay } from './remote/relay';
import { uploads } from './remote/uploads';
import { type Throttle } from './throttle';

export interface AppOptions extends GuardOptions {
  /** Folder of the built app. */
  dist: string;
  /** Folder that the intake writes below, and nowhere else. */
  ingestRoot: string;
  streamKey: string;
  /** Where the certificate for other machines is kept; needed with a token. */
  certificatePath?: string;
}

/** What the server adds to its options when it starts. */
export interface Secrets {
  /** Proves that a page is one of this server's: it may run a show. */
  hostKey: string;
  /** Wrong tokens, and wrong stream keys, by address. */
  guesses: { token: Throttle; key: Throttle };
}

const COMMAND_LIMIT = '256kb';

const POLICY = [
  "default-src 'self'",
  "script-src 'self' 'wasm-unsafe-eval'",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' blob: data:",
  "media-src 'self' blob:",
  "worker-src 'self' blob:",
  "connect-src 'self' ws: http: https:",
].join('; ');

/** Only the page of guests may stand in another page, and only in one of ours: simulated guests do. */
const frames = (path: string): string => (path.startsWith('/join/') ? "frame-ancestors 'self'" : "frame-ancestors 'none'");

function headers(path: string, res: Response): void {
  res.set({
    'Cross-Origin-Opener-Policy': 'same-origin',
    'Cross-Origin-Embedder-Policy': 'require-corp',
    'Cross-Origin-Resource-Policy': 'same-origin',
    'Content-Security-Policy': `${POLICY}; ${frames(path)}`,
    'X-Content-Type-Options': 'nosniff',
    'Referrer-Policy': 'no-referrer',
  });
}

export function createApp(options: AppOptions, secrets: Secrets, relay: Relay, pier: PierServers, panels: Panels): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((req, res, next) => {
    headers(req.path, res);
    const verdict = judge(req, options, secrets.guesses.token);
    if (verdict) {
      if (verdict.retryAfter !== undefined) res.set('Retry-After', String(verdict.retryAfter));
      res.status(verdict.status).json({ code: 'refused', message: verdict.message });
      return;
    }
    // Cameras, decoders and guests want a secure context: from other machines there is nothing else.
    if (needsTls(req, options)) {
      res.redirect(308, `https://${req.headers.host ?? ''}${req.originalUrl}`);
      return;
    }
    if (options.token !== null && req.query.token !== undefined && tokenOf(req) === options.token) {
      res.cookie('bivoca_token', options.token, { httpOnly: true, sameSite: 'strict', secure: isEncrypted(req) });
    }
    next();
  });
  app.use('/api/addresses', addresses(secrets.hostKey, options.port));
  const folder = join(options.ingestRoot, '..', 'uploads');
  app.use('/api/panel/files', uploads(panels, { folder, hostKey: secrets.hostKey, guesses: secrets.guesses.token }));
  app.use('/api', httpPeers(relay, secrets.guesses.token));
  app.use('/api', remote(relay, secrets.hostKey, options));
  app.use('/simulated', simulated(pier));
  const ingest = new Ingest(options.ingestRoot);
  app.use('/ingest', intake(ingest, options.streamKey, secrets.guesses.key));
  app.use('/live', published(ingest));
  app.get('/audience/:show', (_req, res) => void res.set('Cache-Control', 'no-cache').sendFile('audience.html', { root: options.dist }));
  app.get('/watch', (_req, res) => res.sendFile('watch.html', { root: options.dist }));
  app.use(
    // Names of the build's files change with what is in them, so they are kept for good; they were compressed when it was built.
    compressedStatic(options.dist, {
      index: false,
      enableBrotli: true,
      orderPreference: ['br', 'gz'],
      serveStatic: {
        maxAge: '1y',
        immutable: true,
        setHeaders: (res, path) => void (path.includes('.html') && res.setHeader('Cache-Control', 'no-cache')),
      },
    }),
  );
  app.get('/{*rest}', (req, res) => {
    // A missing file of the build must be a 404, not the app.
    if (/\.[a-z0-9]+$/i.test(req.path)) res.status(404).json({ code: 'not-found', message: 'There is no such file.' });
    else res.set('Cache-Control', 'no-cache').sendFile('index.html', { root: options.dist });
  });
  app.use(failed);
  return app;
}

/** The show that a request names with `?show=`; null when it names none. */
const showOf = (req: Request): string | null => (typeof req.query.show === 'string' && req.query.show !== '' ? req.query.show : null);

function remote(relay: Relay, hostKey: string, options: GuardOptions): express.Router {
  const router = express.Router();
  router.use((_req, res, next) => {
    res.set('Cache-Control', 'no-store');
    next();
  });
  router.post('/commands', express.json({ limit: COMMAND_LIMIT }), async (req, res) => {
    if (typeof req.body !== 'object' || req.body === null || (Array.isArray(req.body) && req.body.length === 0)) {
      res.status(400).json({ code: 'bad-body', message: 'Send JSON: {"type": …, "args": {…}}, or a list of such, as application/json.' });
      return;
    }
    if (isTooDeep(req.body)) {
      res.status(400).json({ code: 'too-deep', message: 'This command is nested deeper than any command is.' });
      return;
    }
    const outcome = await relay.command(showOf(req), req.body);
    if (outcome.ok) res.json(outcome.result);
    else res.status(422).json(outcome.error);
  });
  router.get('/shows', (_req, res) => res.json(relay.shows()));
  router.get('/state', async (req, res) => {
    const { revision, show, air, frame } = await relay.state(showOf(req));
    res.json({ revision, show, air, frame });
  });
  router.get('/status', async (req, res) => {
    res.json(await relay.status(showOf(req)));
  });
  // Browsers say where a request comes from, and no page can say otherwise.
  router.get('/host-key', (req, res) => {
    if (req.headers['sec-fetch-site'] === 'same-origin')
      res.json({ key: hostKey, addresses: options.token === null ? [] : lanAddresses(options.port) });
    else res.status(403).json({ code: 'refused', message: 'Only a page of this server may run a show.' });
  });
  router.use((_req, res) => {
    res.status(404).json({ code: 'not-found', message: 'There is no such address in the remote API.' });
  });
  return router;
}

/** The simulated data source of the demo show, which changes by itself, and the page of its simulated devices. */
function simulated(pier: PierServers): express.Router {
  const router = express.Router();
  for (const [file, rows] of Object.entries(DATA))
    router.get(`/${file}`, (_req, res) => void res.set('Cache-Control', 'no-cache').json(rows(Date.now())));
  router.get('/devices.json', (_req, res) => void res.set('Cache-Control', 'no-store').json(pier.state()));
  router.post('/devices', express.json({ limit: '2kb' }), (req, res) => {
    const refused = pier.act(req.body);
    if (refused === null) res.json(pier.state());
    else res.status(422).json({ code: 'refused', message: refused });
  });
  router.use((_req, res) => void res.status(404).json({ code: 'not-found', message: 'The simulated data source has no such file.' }));
  return router;
}

function published(ingest: Ingest): express.Router {
  const router = express.Router();
  const playlist = (res: Response, text: string) => res.type('application/vnd.apple.mpegurl').set('Cache-Control', 'no-store').send(text);
  router.get('/:stream/index.m3u8', async (req, res) => void playlist(res, await ingest.master(req.params.stream)));
  router.get('/:stream/state', async (req, res) => {
    res.set('Cache-Control', 'no-store').json({ idleSeconds: await ingest.idleSeconds(req.params.stream) });
  });
  router.get('/:stream/:track/index.m3u8', async (req, res) => {
    playlist(res, await ingest.playlist(req.params.stream, req.params.track));
  });
  router.get('/:stream/:track/:file', async (req, res) => {
    const { stream, track, file } = req.params;
    res.type('video/mp4').send(await ingest.file(streamFile(stream, track, file)));
  });
  return router;
}

/** Errors as JSON with a code and a plain message; never a stack. */
const failed: ErrorRequestHandler = (error: unknown, _req, res, next) => {
  if (res.headersSent) {
    next(error);
    return;
  }
  const { status, type, code } = error as { status?: number; type?: string; code?: unknown };
  if (error instanceof NoHostError)
    res.status(error.status).json({ code: error.code, message: error.message, ...(error.shows && { shows: error.shows }) });
  else if (error instanceof IngestError) res.status(error.status).json({ code: 'bad-segment', message: error.message });
  else if (type === 'entity.too.large') res.status(413).json({ code: 'too-large', message: 'This is larger than the server takes.' });
  // What HTTP's own parser refuses in the middle of a body has no status.
  else if (typeof code === 'string' && code.startsWith('HPE_'))
    res.status(400).json({ code: 'bad-request', message: 'This request cannot be read: it is not HTTP to its end.' });
  else if (status !== undefined && status < 500)
    res.status(status).json({ code: 'bad-request', message: 'This request cannot be read. Commands are JSON.' });
  else {
    console.error(error);
    res.status(500).json({ code: 'failed', message: 'The server failed at this; the show is not affected.' });
  }
};
