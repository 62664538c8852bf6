/** The server's own process; main.ts starts it, watches over it, and starts it again when it ends. */
import { type AppOptions } from './app';
import { serve } from './serve';

/** What main.ts says. */
export type ToRun = { kind: 'start'; options: AppOptions } | { kind: 'ping' };

/** What it answers. */
export type FromRun = { kind: 'ready' } | { kind: 'refused'; message: string } | { kind: 'pong' };

const say = (message: FromRun) => process.send?.(message);

/** Nothing is known to be whole after an error that nobody expected: it is told, and a new process begins. */
function give(error: unknown): void {
  console.error(error);
  process.exit(70);
}

process.on('uncaughtException', give);
process.on('unhandledRejection', give);
process.on('disconnect', () => process.exit(0));
// Ctrl+C reaches every process of a terminal; main.ts ends this one in its own time.
process.on('SIGINT', () => undefined);
process.on('message', (message: ToRun) => {
  if (message.kind === 'ping') return void say({ kind: 'pong' });
  return void serve(message.options).then(
    () => say({ kind: 'ready' }),
    (error: unknown) => {
      const taken = (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
      const { port } = message.options;
      say({
        kind: 'refused',
        message: taken
          ? `Port ${port} is taken by another program. Choose another: npm run demo -- --port ${port + 1}`
          : `The server cannot start: ${(error as Error).message}`,
      });
    },
  );
});
