import * as fc from 'fast-check';
import { deliverSong } from '../outgoing/deliver';
import { pitchedNotes, readImport } from '../incoming/midi-import';
import { scoreWith } from '../../testing/scores';
import { musicOf } from '../../testing/sounding';
import { TICKS_PER_QUARTER } from '../../theory/units';
import { atResolution, OWN_RESOLUTION, RESOLUTIONS } from './at-resolution';
import type { MidiEvent } from './midi-write';

/** Notes one after the other on one pitch, as short and as near as they come. */
const lines = fc.array(fc.record({ rest: fc.nat(9), length: fc.integer({ min: 1, max: 12 }) }), { maxLength: 20 });

describe('other ticks to the quarter note', () => {
  it('let every note begin and end, none before the one before it is over, each near where it was', () => {
    fc.assert(
      fc.property(lines, fc.constantFrom(...RESOLUTIONS), (notes, resolution) => {
        let now = 0;
        const events = notes.flatMap(({ rest, length }): MidiEvent[] => {
          const [start, end] = [now + rest, now + rest + length];
          now = end;
          const note = { channel: 0, pitch: 60, velocity: 80 };
          return [
            { kind: 'on', at: start, ...note },
            { kind: 'off', at: end, ...note },
          ];
        });
        const file = atResolution({ type: 1, tracks: [{ events, end: now }] }, resolution);
        const [track] = file.tracks;
        expect(track!.events.map(({ kind }) => kind)).toEqual(events.map(({ kind }) => kind));
        track!.events.forEach(({ at, kind }, index) => {
          const before = track!.events[index - 1];
          if (before) expect(at).toBeGreaterThanOrEqual(before.at + (kind === 'off' ? 1 : 0));
          // Notes shorter than a tick push those after them on, by at most what they gained.
          expect(at).toBeGreaterThanOrEqual(Math.round((events[index]!.at * resolution) / 480));
          expect(at).toBeLessThanOrEqual(Math.round((events[index]!.at * resolution) / 480) + notes.length);
        });
        expect(track!.end).toBeGreaterThanOrEqual(track!.events.at(-1)?.at ?? 0);
      }),
    );
  });

  it('are read back as the same song, to half a tick', () => {
    const { score, takes } = scoreWith(4, 0);
    const notesAt = (resolution: (typeof RESOLUTIONS)[number]) => {
      const read = readImport(deliverSong(musicOf(score, takes), { resolution }).bytes);
      if (!read.ok) throw new Error(read.reason);
      return pitchedNotes(read.file.lines);
    };
    const own = notesAt(480);
    expect(own.length).toBeGreaterThan(20);
    for (const resolution of RESOLUTIONS) {
      const half = Math.ceil(240 / resolution);
      const found = notesAt(resolution);
      expect(found).toHaveLength(own.length);
      const places = (notes: typeof own) => [...notes].map(({ start }) => start).sort((a, b) => a - b);
      places(found).forEach((start, index) => expect(Math.abs(start - places(own)[index]!)).toBeLessThanOrEqual(half));
    }
  });
});

describe('Fendro’s own resolution', () => {
  it('is what its ticks count', () => {
    expect(OWN_RESOLUTION).toBe(TICKS_PER_QUARTER);
  });
});
