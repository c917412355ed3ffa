/** Whole songs, as “Draft the song” makes them: what sections share, and what tells a chorus from its verse. */
import { requestFor } from '@fendro/core/compose/asking';
import { draft } from '@fendro/core/compose/draft';
import { attemptsAt } from '@fendro/core/compose/stages';
import { songLines, withHook } from '@fendro/core/compose/whole-song';
import { choose } from '@fendro/core/song/edit';
import { chordsIn, NOTHING_HEARD, partTake, sectionTicks } from '@fendro/core/song/resolve';
import { isDrumRole } from '@fendro/core/song/roles';
import type { Note, Score, Section, SectionKind, Take } from '@fendro/core/song/schema';
import { chosenId } from '@fendro/core/song/section';
import { draftedTake } from '@fendro/core/song/take';
import type { Style } from '@fendro/core/song/style';
import { sharedMotifs } from '@fendro/core/study/motifs';
import { newSection, startScore } from '@fendro/core/styles/band';
import { pitchClassOf } from '@fendro/core/theory/pitch';
import { barTicks } from '@fendro/core/theory/metre';
import { groundOf, seedOf } from './pieces';
import { mean } from './two-sided';

const KINDS: readonly SectionKind[] = ['intro', 'verse', 'pre-chorus', 'chorus', 'bridge', 'outro'];

export interface DraftedSong {
  readonly score: Score;
  readonly takes: Readonly<Record<string, Take>>;
}

/** A song of six sections in a style, every line the first draw. */
export function draftedSong(style: Style, number: number): DraftedSong {
  const start = startScore('Study', groundOf(style, number), style);
  let score: Score = { ...start, sections: KINDS.map((kind) => newSection(style, kind, kind)) };
  const takes: Record<string, Take> = {};
  for (const { section: id, line } of songLines(score, new Set(KINDS))) {
    const section = score.sections.find((own) => own.id === id) as Section;
    const request = requestFor({ score, takes, heard: NOTHING_HEARD }, section, line, seedOf(style, number));
    if (!request) continue;
    const result = draft(request, 0);
    if (!result.ok) continue;
    const { content } = result;
    const take = draftedTake(
      { id: `${id} ${line}`, section: id, length: sectionTicks(score, section) },
      { asking: request.asking, seed: request.seed, attempts: attemptsAt(0) },
      content.of === 'part' ? { ...content, part: line } : content,
    );
    takes[take.id] = take;
    score = withHook(choose(score, id, line, take.id), takes, take.id, 'hook');
  }
  return { score, takes };
}

export interface SongMeasures {
  /** Notes of a section's melody in motifs that another section has, mean of the sections. */
  readonly shared: number;
  /** Bars of the chorus's melody that the verse has too. */
  readonly identical: number;
  /** How much higher the chorus's melody lies, in semitones. */
  readonly higher: number;
  /** Onsets of the whole band in the chorus against the verse, per bar. */
  readonly fuller: number;
  readonly home: number;
}

const barsOf = (notes: readonly Note[], bar: number): string[] => {
  const bars = new Map<number, string[]>();
  for (const { start, pitch } of notes) {
    const index = Math.floor(start / bar);
    bars.set(index, [...(bars.get(index) ?? []), `${start % bar}:${pitch}`]);
  }
  return [...bars.values()].map((content) => content.join());
};

/** Measures a song; null where its style has no melody. */
export function measureSong({ score, takes }: DraftedSong): SongMeasures | null {
  const melody = score.parts.find(({ role }) => role === 'melody');
  if (!melody) return null;
  const notesOf = (kind: string, part: string): readonly Note[] => {
    const section = score.sections.find(({ id }) => id === kind);
    return (section ? partTake(takes, chosenId(section, part)) : null)?.notes ?? [];
  };
  const lines = KINDS.map((kind) => ({ kind, notes: notesOf(kind, melody.id) })).filter(
    ({ notes }) => notes.length > 0,
  );
  const shared = lines.map(({ kind, notes }) =>
    Math.max(
      ...lines.filter((other) => other.kind !== kind).map((other) => sharedMotifs(notes, other.notes, score.ground)),
    ),
  );
  const bar = barTicks(score.ground.metre);
  const [verse, chorus] = [notesOf('verse', melody.id), notesOf('chorus', melody.id)];
  const verseBars = new Set(barsOf(verse, bar));
  const chorusBars = barsOf(chorus, bar);
  const sectionBars = (kind: string): number => score.sections.find(({ id }) => id === kind)?.bars ?? 8;
  const onsets = (kind: string): number =>
    score.parts
      .map(
        ({ id, role }) =>
          new Set(notesOf(kind, id).map(({ start, pitch }) => (isDrumRole(role) ? `${start} ${pitch}` : start))).size,
      )
      .reduce((sum, count) => sum + count, 0) / sectionBars(kind);
  const end = chorus.at(-1);
  const pitch = (notes: readonly Note[]): number => mean(notes.map((note) => note.pitch));
  return {
    shared: mean(shared),
    identical: chorusBars.filter((text) => verseBars.has(text)).length / Math.max(1, chorusBars.length),
    higher: pitch(chorus) - pitch(verse),
    fuller: onsets('chorus') / onsets('verse'),
    home: end && (end.pitch - pitchClassOf(score.ground.tonic) + 120) % 12 === 0 ? 1 : 0,
  };
}

export const chordsOfSong = ({ score, takes }: DraftedSong, kind: string) => {
  const section = score.sections.find(({ id }) => id === kind);
  return section ? chordsIn(section, takes, NOTHING_HEARD) : [];
};
