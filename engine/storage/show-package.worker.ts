/** Unpacks a show file in a thread of its own, so that it can be ended whatever the file does to it. */
import { type Problem } from '#core/schema/check';
import { ShowError } from '#core/desk/validate';
import { workerScope } from '../worker-scope';
import { readPackage, type ShowPackage } from './show-package';

export type FromPackage = { type: 'read'; content: ShowPackage } | { type: 'trouble'; message: string; problems: Problem[] };

const say = (message: FromPackage) => workerScope.postMessage(message);

workerScope.onmessage = ({ data }: MessageEvent<Blob>) => {
  readPackage(data).then(
    (content) => say({ type: 'read', content }),
    (error: unknown) =>
      say({
        type: 'trouble',
        message: error instanceof ShowError ? error.message : 'This file is damaged, or is not a Bivoca show.',
        problems: error instanceof ShowError ? error.problems.slice(0, 100) : [],
      }),
  );
};
