import { LONGEST_PHRASE_NAME, type OwnPhrase, type Provenance } from '../../song/own-phrase';
import { shortened } from '../../song/limits';
import { chordsWithin } from '../../song/progression';
import { isDrumRole } from '../../song/roles';
import type { ChordSpan } from '../../song/schema';
import type { Key } from '../../theory/key';
import { barTicks } from '../../theory/metre';
import { range, type Ticks } from '../../theory/units';
import { chordsOfFile, keysOfFile } from './imported-song';
import { readImport } from './midi-import';
import type { ImportFile, ImportLine, ImportNote, ImportSection } from './file-model';

/** A bank of phrases and drum patterns, cut out of MIDI files. */

/** Bars that are cut out at a time, of drums and of everything else. */
const [DRUM_BARS, PITCHED_BARS] = [2, 4];
/** What is struck less often says nothing by itself. */
const FEWEST_STROKES = 3;
/** Cuts of one line that are kept: those that come back most often, the earlier first. */
const MOST_OF_A_LINE = 6;
/** What is struck nearer together than this is struck in the same place, in ticks. */
const SAME_PLACE: Ticks = 30;

/** A phrase as it is found, before it lies on the shelf. */
export type FoundPhrase = Omit<OwnPhrase, 'id'>;

/** A phrase without what sets it apart from its like. */
type Cut = Omit<OwnPhrase, 'id' | 'name' | 'from'> & { readonly bars: readonly [from: number, to: number] };

/**
 * What two phrases share that a listener would call the same: what is struck when, in a bar of the same length, drums by
 * themselves and pitches by their distance from the first.
 */
function printOf({ role, bar, length, notes }: Pick<OwnPhrase, 'role' | 'bar' | 'length' | 'notes'>): string {
  const drums = isDrumRole(role);
  const first = drums ? 0 : (notes[0]?.pitch ?? 0);
  const strokes = notes
    .map(({ start, pitch }) => [Math.round(start / SAME_PLACE), pitch - first] as const)
    .sort(([a, low], [b, high]) => a - b || low - high);
  return `${drums ? 'drums' : 'line'} ${bar} ${length} ${strokes.map((stroke) => stroke.join(':')).join(' ')}`;
}

const within = (notes: readonly ImportNote[], from: Ticks, to: Ticks): OwnPhrase['notes'] =>
  notes
    .filter(({ start }) => start >= from && start < to)
    .map(({ start, duration, pitch, velocity }) => ({
      start: start - from,
      duration: Math.max(1, Math.min(duration, to - start)),
      pitch,
      velocity,
    }));

/** The shortest stretch that a cut says over and over, in bars that divide it; all of it where it does not. */
function said(cut: Cut): Cut {
  const bars = Math.round(cut.length / cut.bar);
  for (const count of range(bars - 1).map((index) => index + 1)) {
    if (bars % count !== 0) continue;
    const length = count * cut.bar;
    const parts = range(bars / count).map((round) => within(cut.notes, round * length, (round + 1) * length));
    const prints = new Set(parts.map((notes) => notes.map(({ start, pitch }) => `${near(start)}:${pitch}`).join(' ')));
    const [notes] = parts;
    if (prints.size === 1 && notes) return { ...cut, length, notes, chords: chordsWithin(cut.chords, 0, length) };
  }
  return cut;
}

const near = (at: Ticks): number => Math.round(at / SAME_PLACE);

/** The stretches of a line in one section, from its first bar on. */
function cutsOf(line: ImportLine, section: ImportSection, chords: readonly ChordSpan[], key: Key): Cut[] {
  const bar = barTicks(section.metre);
  const most = line.drums ? DRUM_BARS : PITCHED_BARS;
  return range(Math.ceil(section.bars / most)).flatMap((index): Cut[] => {
    const [from, to] = [index * most, Math.min(section.bars, (index + 1) * most)];
    const notes = within(line.notes, section.start + from * bar, section.start + to * bar);
    if (new Set(notes.map(({ start }) => near(start))).size < FEWEST_STROKES) return [];
    const { tonic, scale } = section.key ?? key;
    const cut: Cut = {
      role: line.role,
      tonic,
      scale,
      bar,
      length: (to - from) * bar,
      notes,
      chords: line.drums ? [] : chordsWithin(chords, from * bar, to * bar),
      bars: [from + 1, to],
    };
    return [said(cut)];
  });
}

/** Cuts of one line, those that come back most often, each once. */
function tellingOnes(cuts: readonly Cut[]): Cut[] {
  const counts = new Map<string, { readonly cut: Cut; readonly times: number }>();
  for (const cut of cuts) {
    const print = printOf(cut);
    const before = counts.get(print);
    counts.set(print, { cut: before?.cut ?? cut, times: (before?.times ?? 0) + 1 });
  }
  return [...counts.values()]
    .sort((a, b) => b.times - a.times)
    .slice(0, MOST_OF_A_LINE)
    .map(({ cut }) => cut);
}

/** “Piano, verse 5–8 of Slow river”. */
function nameOf(line: ImportLine, section: ImportSection, cut: Cut, alone: boolean, file: string): string {
  const title = file
    .replace(/\.midi?$/i, '')
    .replaceAll(/[_\s]+/g, ' ')
    .trim();
  if (alone)
    return shortened(
      line.name === '' || title.includes(line.name) ? title : `${line.name} of ${title}`,
      LONGEST_PHRASE_NAME,
    );
  const [from, to] = cut.bars;
  const where = `${section.name === '' ? 'bars' : `${section.name}, bars`} ${from}–${to}`;
  return shortened(`${line.name} of ${title}, ${where}`, LONGEST_PHRASE_NAME);
}

/**
 * The phrases and drum patterns of a file: each line in stretches of four bars, drums of two, shorter where they only
 * repeat themselves; of each line those that come back most often, doubles left out.
 *
 * @param chords  the chords of each section
 * @param from    where they come from
 */
function phrasesOfFile(
  file: ImportFile,
  chords: readonly (readonly ChordSpan[])[],
  key: Key,
  from: Provenance,
): FoundPhrase[] {
  return file.lines.flatMap((line) => {
    const where = new Map<Cut, ImportSection>();
    const cuts = file.sections.flatMap((section, index) => {
      const here = cutsOf(line, section, chords[index] ?? [], key);
      for (const cut of here) where.set(cut, section);
      return here;
    });
    const telling = tellingOnes(cuts);
    return telling.flatMap((cut): FoundPhrase[] => {
      const section = where.get(cut);
      if (!section) return [];
      const { bars: _bars, ...phrase } = cut;
      const alone = telling.length === 1;
      return [{ ...phrase, name: nameOf(line, section, cut, alone, from.file) || 'Phrase', from }];
    });
  });
}

/** Those that are not there yet, each once, and how many others there were. */
export function withoutDoubles(
  phrases: readonly FoundPhrase[],
  there: readonly FoundPhrase[],
): { readonly fresh: readonly FoundPhrase[]; readonly doubles: number } {
  const prints = new Set(there.map(printOf));
  const fresh = phrases.filter((phrase) => {
    const print = printOf(phrase);
    return !prints.has(print) && prints.add(print);
  });
  return { fresh, doubles: phrases.length - fresh.length };
}

/** The phrases of a MIDI file's bytes, or why it has none, in words. */
export function readBankFile(
  bytes: Uint8Array,
  from: Provenance,
): { readonly ok: true; readonly phrases: readonly FoundPhrase[] } | { readonly ok: false; readonly reason: string } {
  const reading = readImport(bytes);
  if (!reading.ok) return reading;
  const { file } = reading;
  const key = keysOfFile(file)[0]?.key ?? { tonic: 0, scale: 'major' };
  const pitched = file.lines.filter(({ drums }) => !drums).map(({ id }) => id);
  const chords = pitched.length === 0 ? [] : chordsOfFile(file, pitched, key);
  return { ok: true, phrases: phrasesOfFile(file, chords, key, from) };
}
