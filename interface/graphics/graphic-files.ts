/** Graphics to and from files. */
import { type Graphic } from '#core/graphics/document';
import { asLottie } from '#core/graphics/animation/leave';
import { NO_VALUES } from '#core/graphics/find';
import { type Rate } from '#core/time/rate';
import { causeOf } from '#core/schema/cause';
import { type ShowClient } from '#engine/client/show-client';
import { readAnimationFile } from '#engine/graphics/animation-file';
import { packGraphic, unpackGraphic } from '#engine/graphics/graphic-file';
import { say } from '../client/say';
import { saveFile } from '../parts/save-file';
import { openGraphicById, setGraphicsRoom } from './room-state';

/** Gives the person a file of the graphic, with its images. */
export async function sendGraphic(client: ShowClient, graphic: Graphic): Promise<void> {
  // Its images lie where the show runs.
  if (client.panel) return void say.caution('A graphic leaves as a file at the window that runs the show.');
  try {
    saveFile(await packGraphic(graphic), `${graphic.name.replaceAll(/[^\p{L}\p{N} -]/gu, '')}.bivoca-graphic`);
  } catch (error) {
    say.caution(`${graphic.name} cannot be saved: ${causeOf(error)}`);
  }
  return undefined;
}

/** Gives the person the graphic as a Lottie document, as it is drawn. */
export function sendLottie(graphic: Graphic, rate: Rate): void {
  const { document } = asLottie({ graphic, values: NO_VALUES }, rate);
  const file = new Blob([JSON.stringify(document)], { type: 'application/json' });
  saveFile(file, `${graphic.name.replaceAll(/[^\p{L}\p{N} -]/gu, '')}.json`);
}

const isAnimation = (file: File): boolean => /\.(json|lottie)$/i.test(file.name);

/** Adds the graphic of a file to the show; of an animation it is asked first what of it is to be filled in. */
export async function bringGraphic(client: ShowClient, file: File): Promise<void> {
  try {
    if (isAnimation(file)) {
      const own = client.store.getState().desk.show.graphics.fonts.map((f) => f.family);
      setGraphicsRoom({ bringing: { fileName: file.name, animations: await readAnimationFile(file, own) } });
      return;
    }
    const outcome = client.dispatch({
      type: 'graphic.bring',
      args: { graphic: await unpackGraphic(file, (kept, as) => client.files.keep(kept, as)) },
    });
    if (outcome.ok) openGraphicById(String(outcome.result.id));
    else say.caution(outcome.error.message);
  } catch (error) {
    say.caution(causeOf(error));
  }
}
