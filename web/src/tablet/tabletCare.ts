import { useEffect } from 'react';
import { usePreferences } from '../ui/preferences';

/** Keeps the screen on while the component is shown, when this person wants it and the tablet can. */
export function useKeepAwake(): void {
  const awake = usePreferences((s) => s.awake);
  useEffect(() => {
    if (!awake || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    let gone = false;
    const ask = async () => {
      if (document.visibilityState !== 'visible' || gone) return;
      // Refused on a low battery: then the screen goes dark as it always did.
      lock = await navigator.wakeLock.request('screen').catch(() => null);
      if (gone) await lock?.release();
    };
    void ask();
    document.addEventListener('visibilitychange', ask);
    return () => {
      gone = true;
      document.removeEventListener('visibilitychange', ask);
      void lock?.release();
    };
  }, [awake]);
}

/** How long a key sounds, ms. */
const TICK_MS = 60;
/** How high, Hz: heard over a fan. */
const TICK_HZ = 660;
/** Made with the first key: browsers allow no sound before. */
let audio: AudioContext | null = null;

/** Tells hand or ear that an answer was kept, for those who asked for it. */
export function tellKept(): void {
  const { vibrate, sound } = usePreferences.getState();
  if (vibrate) navigator.vibrate?.(TICK_MS);
  if (!sound) return;
  audio ??= new AudioContext();
  const tone = audio.createOscillator();
  const volume = audio.createGain();
  volume.gain.value = 0.08;
  tone.frequency.value = TICK_HZ;
  tone.connect(volume).connect(audio.destination);
  tone.start();
  tone.stop(audio.currentTime + TICK_MS / 1000);
}
