/** Sends a file to the show through the server, and tells how far it has got. */
import { isRecord } from '#core/schema/record';
import { type FileUse } from '../client/show-client';

/** The settings of a source, or what is kept for a graphic. `share` is told as it goes, 0 to 1. @throws Error with place, cause and remedy */
export function upload(
  file: File,
  use: FileUse | undefined,
  { showId, secret }: { showId: string; secret: string },
  share: (done: number) => void,
): Promise<Record<string, unknown>> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open(
      'POST',
      `/api/panel/files?${new URLSearchParams({ show: showId, name: file.name, type: file.type, ...(use && { use }) }).toString()}`,
    );
    request.setRequestHeader('authorization', `Bearer ${secret}`);
    request.setRequestHeader('content-type', 'application/octet-stream');
    request.upload.onprogress = ({ loaded, total }) => share(total > 0 ? loaded / total : 0);
    request.onerror = () =>
      reject(new Error(`${file.name} did not reach the server: it was cut off, or the file is larger than it takes.`));
    request.onload = () => {
      let answer: unknown = null;
      try {
        answer = JSON.parse(request.responseText);
      } catch {
        // Said below.
      }
      if (request.status === 200 && isRecord(answer)) return resolve(answer);
      const why = isRecord(answer) && typeof answer.message === 'string' ? answer.message : `the server answered ${request.status}.`;
      return reject(new Error(`${file.name}: ${why}`));
    };
    request.send(file);
  });
}
