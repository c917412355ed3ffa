import { kinRequest, redraftRequest, requestFor } from '@fendro/core/compose/asking';
import type { DraftRequest } from '@fendro/core/compose/draft';
import { draftTakes } from '@fendro/core/compose/takes';
import { ASPECTS, HARMONY } from '@fendro/core/song/schema';
import { withNoteIds } from '@fendro/core/song/take';
import { scoreWith } from '@fendro/core/testing/scores';
import { musicOf } from '@fendro/core/testing/sounding';
import { fromWorkerSchema, toWorkerSchema } from './draft-messages';

const { score, takes } = scoreWith(1, 0);
const music = musicOf(score, takes);
const [section] = score.sections;
const [melody] = score.parts;
const [first, second] = [0, 1].map((attempt) => `${section!.id}-${melody!.id}-${attempt}`);

const asked: [string, DraftRequest | null][] = [
  ['a part', requestFor(music, section!, melody!.id, 1)],
  ['chords', requestFor(music, section!, HARMONY, 1)],
  ['a bar again', redraftRequest(music, section!, melody!.id, 1, { bars: [1], aspects: ASPECTS })],
  ['pitches again', redraftRequest(music, section!, melody!.id, 1, { bars: [0, 1], aspects: ['pitch'] })],
  ['a variation', kinRequest(music, section!, melody!.id, 1, { by: 'variation', takes: [first!], share: 30 })],
  ['a blend', kinRequest(music, section!, melody!.id, 1, { by: 'rhythm and pitches', takes: [first!, second!] })],
];

/** What arrives of a message: plain data. The test's page has no structured clone. */
const sent = (message: unknown): unknown => JSON.parse(JSON.stringify(message));

describe('what page and drafting worker say to each other', () => {
  it.each(asked)('arrives as it was sent: %s', (_what, request) => {
    const message = { kind: 'draft', id: 1, request: request!, from: 0, count: 2, shown: [] };
    expect(toWorkerSchema.parse(sent(message))).toEqual(message);
  });

  it.each(asked)('comes back whole, held notes with their ids: %s', (_what, request) => {
    for (const step of draftTakes(request!, 3, 2, new Set())) {
      if (step.kind !== 'take') continue;
      const answer = { kind: 'take', id: 1, ...step.take };
      expect(fromWorkerSchema.parse(sent(answer))).toEqual(answer);
      if (step.take.content.of !== 'part') continue;
      const { notes } = step.take.content;
      // What is held keeps its id, what is new gets one of its own.
      const kept = notes.flatMap((note) => ('id' in note ? [note.id] : []));
      const ids = withNoteIds(notes).map(({ id }) => id);
      expect(ids).toEqual(expect.arrayContaining(kept));
      expect(new Set(ids).size).toBe(ids.length);
    }
  });

  it('is refused where it is none', () => {
    expect(toWorkerSchema.safeParse({ kind: 'sing' }).success).toBe(false);
    expect(fromWorkerSchema.safeParse({ kind: 'take', id: 1, attempts: { plan: -1 } }).success).toBe(false);
  });
});
