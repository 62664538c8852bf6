/** The HTTP side: the app's files, the remote API, the streaming site. */
import { join } from 'node:path';
import express, { type ErrorRequestHandler, type Express, type Response } from 'express';
import { type GuardOptions, judge, tokenOf } from './guard';
import { Ingest, IngestError, streamFile } from './output/ingest';
import { NoHostError, type Relay } from './remote/relay';

export interface AppOptions extends GuardOptions {
  /** Folder of the built app. */
  dist: string;
  /** Folder that the intake writes below, and nowhere else. */
  ingestRoot: string;
  streamKey: string;
}

const COMMAND_LIMIT = '256kb';
const SEGMENT_LIMIT = '32mb';

const POLICY = [
  "default-src 'self'",
  "script-src 'self' 'wasm-unsafe-eval'",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' blob: data:",
  "media-src 'self' blob:",
  "worker-src 'self' blob:",
  "connect-src 'self' ws: http: https:",
  "frame-ancestors 'none'",
].join('; ');

function headers(res: Response): void {
  res.set({
    'Cross-Origin-Opener-Policy': 'same-origin',
    'Cross-Origin-Embedder-Policy': 'require-corp',
    'Cross-Origin-Resource-Policy': 'same-origin',
    'Content-Security-Policy': POLICY,
    'X-Content-Type-Options': 'nosniff',
    'Referrer-Policy': 'no-referrer',
  });
}

export function createApp(options: AppOptions, relay: Relay): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((req, res, next) => {
    headers(res);
    const verdict = judge(req, options);
    if (verdict) {
      res.status(verdict.status).json({ code: 'refused', message: verdict.message });
      return;
    }
    if (options.token !== null && req.query.token !== undefined && tokenOf(req) === options.token) {
      res.cookie('bivoca_token', options.token, { httpOnly: true, sameSite: 'strict' });
    }
    next();
  });
  app.use('/api', remote(relay));
  const ingest = new Ingest(options.ingestRoot);
  app.use('/ingest', intake(ingest, options.streamKey));
  app.use('/live', published(ingest));
  app.get('/watch', (_req, res) => res.sendFile(join(options.dist, 'watch.html')));
  app.use(express.static(options.dist, { index: false, maxAge: '1y', immutable: true, setHeaders: (res, path) => path.endsWith('.html') && res.set('Cache-Control', 'no-cache') }));
  app.get('/{*rest}', (req, res) => {
    // A missing file of the build must be a 404, not the app.
    if (/\.[a-z0-9]+$/i.test(req.path)) res.status(404).json({ code: 'not-found', message: 'There is no such file.' });
    else res.set('Cache-Control', 'no-cache').sendFile(join(options.dist, 'index.html'));
  });
  app.use(failed);
  return app;
}

function remote(relay: Relay): express.Router {
  const router = express.Router();
  router.use((_req, res, next) => {
    res.set('Cache-Control', 'no-store');
    next();
  });
  router.post('/commands', express.json({ limit: COMMAND_LIMIT }), async (req, res) => {
    if (typeof req.body !== 'object' || req.body === null) {
      res.status(400).json({ code: 'bad-body', message: 'Send JSON: {"type": …, "args": {…}}, as application/json.' });
      return;
    }
    const outcome = await relay.command(req.body);
    if (outcome.ok) res.json(outcome.result);
    else res.status(422).json(outcome.error);
  });
  router.get('/state', (_req, res) => {
    const { show, air, frame } = relay.state();
    res.json({ show, air, frame });
  });
  router.get('/status', (_req, res) => res.json(relay.state().status));
  router.use((_req, res) => {
    res.status(404).json({ code: 'not-found', message: 'There is no such address in the remote API.' });
  });
  return router;
}

function intake(ingest: Ingest, key: string): express.Router {
  const router = express.Router();
  router.put('/:stream/:track/:file', express.raw({ type: () => true, limit: SEGMENT_LIMIT }), async (req, res) => {
    if (req.headers.authorization !== `Bearer ${key}`) {
      res.status(401).json({ code: 'bad-key', message: 'The stream key is not right.' });
      return;
    }
    const { stream = '', track = '', file = '' } = req.params;
    await ingest.put(streamFile(stream, track, file), Buffer.isBuffer(req.body) ? req.body : Buffer.alloc(0));
    res.status(204).end();
  });
  return router;
}

function published(ingest: Ingest): express.Router {
  const router = express.Router();
  const playlist = (res: Response, text: string) => res.type('application/vnd.apple.mpegurl').set('Cache-Control', 'no-store').send(text);
  router.get('/:stream/index.m3u8', async (req, res) => void playlist(res, await ingest.master(req.params.stream)));
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
  const { status, type } = error as { status?: number; type?: string };
  if (error instanceof NoHostError) res.status(error.status).json({ code: error.status === 503 ? 'no-host' : 'no-answer', message: error.message });
  else if (error instanceof IngestError) res.status(error.status).json({ code: 'bad-segment', message: error.message });
  else if (type === 'entity.too.large') res.status(413).json({ code: 'too-large', message: 'This is larger than the server takes.' });
  else if (status !== undefined && status < 500) res.status(status).json({ code: 'bad-request', message: 'This request cannot be read. Commands are JSON.' });
  else {
    console.error(error);
    res.status(500).json({ code: 'failed', message: 'The server failed at this; the show is not affected.' });
  }
};
