/** The line of this window to the broker between the windows of one browser. */
export const openBroker = (): MessagePort =>
  new SharedWorker(new URL('./broker.worker.ts', import.meta.url), { type: 'module', name: 'bivoca-windows' }).port;
