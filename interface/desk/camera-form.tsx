/** Choice of a camera with its microphone. */
import { useCallback, useEffect, useState } from 'react';
import { causeOf } from '#core/schema/cause';
import { type SourceSettings } from '#core/show/source';
import { listDevices } from '#engine/capture/device-driver';
import { say } from '../client/say';
import { Button } from '../parts/button';

const SIZES: [string, number, number][] = [
  ['As the device likes', 0, 0],
  ['1920 × 1080', 1920, 1080],
  ['1280 × 720', 1280, 720],
  ['640 × 360', 640, 360],
];

/** Choice of camera, microphone and format; labels come once the browser has given permission. */
export function CameraForm({ onChoose, verb }: { onChoose: (name: string, settings: SourceSettings) => void; verb: string }) {
  const [devices, setDevices] = useState<Awaited<ReturnType<typeof listDevices>>>({ cameras: [], microphones: [] });
  const [camera, setCamera] = useState('');
  const [microphone, setMicrophone] = useState('none');
  const [size, setSize] = useState(0);
  const [rate, setRate] = useState(0);
  const refresh = useCallback(async () => setDevices(await listDevices()), []);
  useEffect(() => void refresh(), [refresh]);
  const ask = async () => {
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ video: true, audio: true });
      stream.getTracks().forEach((t) => t.stop());
    } catch (error) {
      say.caution(`The browser gave no camera: ${causeOf(error)}. Plug one in, or allow it at the address bar.`);
    }
    await refresh();
  };
  const named = devices.cameras.some((d) => d.label !== '');
  const choose = () => {
    const device = devices.cameras.find((d) => d.deviceId === camera) ?? devices.cameras[0];
    const mic = microphone === 'none' ? null : devices.microphones.find((d) => d.deviceId === microphone);
    const [, width = 0, height = 0] = SIZES[size] ?? [];
    onChoose(device?.label || 'Camera', {
      kind: 'camera',
      deviceId: device?.deviceId ?? '',
      deviceLabel: device?.label ?? '',
      width,
      height,
      frameRate: rate,
      audioDeviceId: mic ? mic.deviceId : null,
      audioDeviceLabel: mic?.label ?? '',
    });
  };
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2">
      {!named && <Button onClick={() => void ask()}>Find cameras</Button>}
      {named && (
        <>
          <select aria-label="Camera" className="max-w-52" value={camera} onChange={(e) => setCamera(e.target.value)}>
            {devices.cameras.map((d) => (
              <option key={d.deviceId} value={d.deviceId}>
                {d.label}
              </option>
            ))}
          </select>
          <select aria-label="Microphone" className="max-w-52" value={microphone} onChange={(e) => setMicrophone(e.target.value)}>
            <option value="none">No sound</option>
            {devices.microphones.map((d) => (
              <option key={d.deviceId} value={d.deviceId}>
                {d.label}
              </option>
            ))}
          </select>
          <select aria-label="Picture size" value={size} onChange={(e) => setSize(Number(e.target.value))}>
            {SIZES.map(([label], i) => (
              <option key={label} value={i}>
                {label}
              </option>
            ))}
          </select>
          <select aria-label="Frames a second" value={rate} onChange={(e) => setRate(Number(e.target.value))}>
            {[0, 25, 30, 50, 60].map((r) => (
              <option key={r} value={r}>
                {r === 0 ? 'Any rate' : `${r} fr/s`}
              </option>
            ))}
          </select>
          <Button look="straw" onClick={choose}>
            {verb}
          </Button>
        </>
      )}
    </div>
  );
}
