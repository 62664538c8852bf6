/** What panels ask for, answered where the show runs. */
import { type Ask, type AskAnswer, type ServerAsk } from '#core/panels/asks';
import { type Show } from '#core/desk/show';
import { causeOf } from '#core/schema/cause';
import { type FileUse, type ShowFiles, type ShowReplay } from '../client/show-client';
import { type HttpPeers } from '../peers/http-peers';
import { graphicAssets } from '../panels/panel-assets';
import { fetchUpload } from '../remote/host-key';
import { toBase64 } from '../panels/base64';
import { openAsset } from '../storage/assets';

const QUALITY = 0.7;
/** Bytes of a file for a panel: in base64 it goes as one message. */
const MOST_ASSET = 4_000_000;
const FILE_USES: readonly FileUse[] = ['image', 'font', 'animation'];

async function small(image: ImageBitmap): Promise<string> {
  const canvas = new OffscreenCanvas(image.width, image.height);
  canvas.getContext('2d', { alpha: false })?.drawImage(image, 0, 0);
  image.close();
  const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY });
  return toBase64(new Uint8Array(await blob.arrayBuffer()));
}

type Files = Pick<ShowFiles, 'asRun' | 'recordings' | 'add' | 'keep' | 'findWindows' | 'findAreas'>;

interface Outside {
  replay: ShowReplay;
  files: Files;
  show: () => Show;
  peers: Pick<HttpPeers, 'offer' | 'candidates' | 'end'>;
}

async function valueOf(ask: Ask | ServerAsk, { replay, files, show, peers }: Outside): Promise<unknown> {
  switch (ask.what) {
    case 'thumbnail': {
      const image = await replay.thumbnail(ask.trackId, ask.frame, ask.width, ask.exact);
      return image && small(image);
    }
    case 'as-run':
      return files.asRun();
    case 'recordings':
      return files.recordings.list();
    case 'windows':
      return files.findWindows(ask.assetId);
    case 'areas':
      return files.findAreas(ask.assetId);
    case 'asset': {
      // The picture or font of a graphic: nothing else of this browser leaves.
      if (!graphicAssets(show()).has(ask.assetId)) return null;
      const file = await openAsset(ask.assetId);
      if (file.size > MOST_ASSET) return null;
      return { name: file.name, type: file.type, data: toBase64(new Uint8Array(await file.arrayBuffer())) };
    }
    case 'take-file': {
      const file = await fetchUpload(ask.id, ask.name, ask.type);
      const use = FILE_USES.find((u) => u === ask.use);
      return use ? files.keep(file, use) : files.add(file);
    }
    case 'peer-offer':
      return peers.offer(ask);
    case 'peer-candidates':
      return peers.candidates(ask);
    case 'peer-end':
      return peers.end(ask.session);
  }
}

export async function answerAsk(ask: Ask | ServerAsk, outside: Outside): Promise<AskAnswer> {
  try {
    return { ok: true, value: await valueOf(ask, outside) };
  } catch (error) {
    return { ok: false, message: causeOf(error) };
  }
}
