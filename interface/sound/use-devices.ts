/** The sound devices of this machine, as they come and go. */
import { useEffect, useState } from 'react';
import { useStore } from 'zustand';
import { type SoundDeviceInfo } from '#engine/sound/device-driver';
import { useShowClient, useShow } from '../client/show-client';

/** Devices of this machine, found again when one comes or goes. */
export function useDevices(): SoundDeviceInfo[] {
  const host = useShowClient();
  const [devices, setDevices] = useState<SoundDeviceInfo[]>([]);
  useEffect(() => {
    const look = () => void host.sound.devices.list().then(setDevices);
    look();
    navigator.mediaDevices?.addEventListener('devicechange', look);
    return () => navigator.mediaDevices?.removeEventListener('devicechange', look);
  }, [host]);
  return devices;
}

/** Pairs of one side of a device: as it tells once it is open, and never fewer than the show uses or names. */
export function usePairs(device: SoundDeviceInfo, side: 'input' | 'output'): number[] {
  const host = useShowClient();
  const { deviceId } = device;
  const told = useStore(host.sound.store, (s) => s.devices.find((d) => d.deviceId === deviceId && d.side === side)?.pairs ?? 0);
  const used = useShow(
    ({
      desk: {
        show: { sound },
      },
    }) => {
      const card = sound.cards.find((c) => c.deviceId === deviceId);
      const named = (side === 'input' ? card?.inputs : card?.outputs) ?? [];
      const plugged =
        side === 'output'
          ? sound.patches.filter((p) => p.to.deviceId === deviceId).map((p) => p.to.pair)
          : sound.inputs.flatMap((c) => (c.feed.kind === 'device' && c.feed.deviceId === deviceId ? [Math.ceil(c.feed.first / 2)] : []));
      return Math.max(0, ...named.map((p) => p.pair), ...plugged);
    },
  );
  const count = Math.max(told || (side === 'input' ? device.inputPairs : device.outputPairs), used, 1);
  return Array.from({ length: count }, (_, i) => i + 1);
}
