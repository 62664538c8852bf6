/** How loud a microphone is now, and whether it gives silence. */
import { useEffect, useRef } from 'react';

/** A microphone in a room is never so quiet, dBFS. */
const SILENCE_DB = -75;
/** It is said after so long, milliseconds. */
const SILENT_MS = 3000;

export function MicrophoneLevel({ stream, onSilence }: { stream: MediaStream; onSilence: (silent: boolean) => void }) {
  const bar = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (stream.getAudioTracks().length === 0) return undefined;
    const context = new AudioContext();
    void context.resume();
    const analyser = new AnalyserNode(context, { fftSize: 1024 });
    context.createMediaStreamSource(stream).connect(analyser);
    const samples = new Float32Array(analyser.fftSize);
    let heardAt = performance.now();
    const timer = setInterval(() => {
      analyser.getFloatTimeDomainData(samples);
      const peak = samples.reduce((most, s) => Math.max(most, Math.abs(s)), 0);
      const db = 20 * Math.log10(Math.max(1e-6, peak));
      if (db > SILENCE_DB || context.state !== 'running') heardAt = performance.now();
      onSilence(performance.now() - heardAt > SILENT_MS);
      if (bar.current) bar.current.style.transform = `scaleX(${Math.min(1, Math.max(0, (db + 60) / 60))})`;
    }, 100);
    return () => {
      clearInterval(timer);
      void context.close();
    };
  }, [stream, onSilence]);
  return (
    <div className="h-3 bg-deep" role="img" aria-label="Level of your microphone">
      <div ref={bar} className="h-full origin-left bg-next" />
    </div>
  );
}
