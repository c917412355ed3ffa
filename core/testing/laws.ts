import type { DraftRequest } from '../compose/draft';
import { isDrumRole } from '../song/roles';
import type { Note, Role } from '../song/schema';
import { chordMask } from '../theory/chord';
import { keyMask } from '../theory/key';
import { barTicks } from '../theory/metre';
import { inMask } from '../theory/pitch';

/** The finest grid that anything is drafted on, in ticks: sixteenths and their triplets. */
const FINEST = 40;

/** Ticks of each grid that can be asked for, and the lines that keep to it. */
const STEPS = { eighths: 240, sixteenths: 120, triplets: 160 } as const;
const GRIDDED: ReadonlySet<Role> = new Set(['melody', 'solo', 'counter', 'ostinato', 'ensemble']);

/**
 * The laws of drafted parts that some notes break, in words: range, section, grid, durations, loudness, no overlap in
 * one voice, and the scale where no adventure is asked for, in no bar that leans.
 */
export function brokenLaws({ asking, chords }: DraftRequest, notes: readonly Note[]): string[] {
  const { brief, role, ground, bars } = asking;
  if (!brief || !role) return ['the asking names no part'];
  const length = bars * barTicks(ground.metre);
  const scale = keyMask({ tonic: ground.tonic, scale: ground.scale });
  const sounding =
    role === 'melody'
      ? scale
      : scale | (chords ?? []).reduce((mask, { chord }) => mask | (chord ? chordMask(chord) : 0), 0);
  const leansOut = (brief.leans ?? []).some(({ moves }) =>
    moves.some((move) => move.setting === 'adventure' && move.by > 0),
  );
  const ventures = brief.adventure > 0 || leansOut;
  const bar = barTicks(ground.metre);
  // Grids begin anew on every bar line.
  const asked = brief.grid && GRIDDED.has(role) ? STEPS[brief.grid] : null;
  const ends = new Map<number, number>();
  return notes.flatMap((note) => {
    const overlaps = (ends.get(note.pitch) ?? note.start) > note.start;
    ends.set(note.pitch, note.start + note.duration);
    const laws: Record<string, boolean> = {
      range: note.pitch >= brief.low && note.pitch <= brief.high,
      section:
        note.start >= (brief.pickup > 0 ? -barTicks(ground.metre) : 0) &&
        note.start < length &&
        note.start + note.duration <= length,
      grid: note.start % FINEST === 0,
      'asked grid': !asked || note.start < 0 || (note.start % bar) % asked === 0,
      duration: note.duration > 0,
      velocity: note.velocity >= 1 && note.velocity <= 127,
      overlap: !overlaps,
      scale: ventures || isDrumRole(role) || inMask(sounding, note.pitch),
    };
    return Object.entries(laws)
      .filter(([, kept]) => !kept)
      .map(([law]) => `${law}: ${JSON.stringify(note)}`);
  });
}
