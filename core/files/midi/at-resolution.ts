import type { MidiEvent, MidiFile, MidiTrack } from './midi-write';

/** Ticks to a quarter note that files are written in: those that sequencers of all ages count by. */
export const RESOLUTIONS = [96, 120, 192, 240, 384, 480, 960] as const;
export type Resolution = (typeof RESOLUTIONS)[number];
/** Fendro’s own. */
export const OWN_RESOLUTION = 480 satisfies Resolution;

/**
 * A track counted in other ticks. What is shorter than one of them lasts one, and what begins anew on the same pitch
 * begins when the note before is over.
 */
function recounted({ events, end }: MidiTrack, factor: number): MidiTrack {
  const begun = new Map<string, number>();
  const over = new Map<string, number>();
  const placed = (event: MidiEvent): number => {
    const at = Math.round(event.at * factor);
    if (event.kind !== 'on' && event.kind !== 'off') return at;
    const key = `${event.channel} ${event.pitch}`;
    if (event.kind === 'on') {
      const start = Math.max(at, over.get(key) ?? 0);
      begun.set(key, start);
      return start;
    }
    const stop = Math.max(at, (begun.get(key) ?? at - 1) + 1);
    over.set(key, stop);
    return stop;
  };
  // In the order in which they sound: of two at one moment, a release comes before a new note.
  const inOrder = [...events].sort((a, b) => a.at - b.at || Number(a.kind === 'on') - Number(b.kind === 'on'));
  const moved = inOrder.map((event) => ({ ...event, at: placed(event) }));
  return { events: moved, end: moved.reduce((last, { at }) => Math.max(last, at), Math.round(end * factor)) };
}

/** A file whose ticks are Fendro's own, in other ticks to the quarter note. */
export function atResolution(file: Omit<MidiFile, 'resolution'>, resolution: Resolution): MidiFile {
  const factor = resolution / OWN_RESOLUTION;
  return {
    ...file,
    resolution,
    tracks: factor === 1 ? file.tracks : file.tracks.map((track) => recounted(track, factor)),
  };
}
