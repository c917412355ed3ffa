import * as fc from 'fast-check';
import { layOut, NOTHING_HEARD, songTicks } from '../song/resolve';
import { HARMONY, type Note, type PartTake } from '../song/schema';
import { looseTake } from '../song/take';
import { scoreWith } from '../testing/scores';
import { heardNotes, musicOf } from '../testing/sounding';
import { loopCourse, songCourse, type Span } from './course';
import { perform, pickUpOf, type NoteEvent } from './performance';
import { withoutOverlaps } from './stages';
import { chosenId, withChoice } from '../song/section';

const wholeSpan = (score: ReturnType<typeof scoreWith>['score']): Span => ({ from: 0, to: songTicks(score) });

/** A take of one part, as it was written. */
const takeOf = (part: string, section: string, notes: readonly Note[]): PartTake =>
  looseTake({ id: 'own', section, length: 3840 }, part, notes, { how: 'edited' });

const note = (start: number, duration: number, pitch = 70) => ({ start, duration, pitch, velocity: 90 });

/** A song of one section and one part, played as often as asked. */
function alone(notes: readonly Note[], times: number) {
  const { score } = scoreWith(1, 0);
  const [part] = score.parts.map(({ id }) => id);
  const [section] = score.sections;
  const take = takeOf(part!, section!.id, notes);
  const song = {
    ...score,
    ground: { ...score.ground, feel: 0 },
    parts: score.parts.slice(0, 1).map((own) => ({ ...own, brief: { ...own.brief, humanise: 0 } })),
    order: Array.from({ length: times }, (_, index) => ({ id: `o${index}`, section: section!.id })),
    sections: [withChoice({ ...section!, chosen: {} }, part!, 'own')],
  };
  return { score: song, music: musicOf(song, { own: take }) };
}

const times = (events: readonly { readonly kind: string }[]) =>
  events.filter((event): event is NoteEvent => event.kind === 'note').map(({ at, end }) => [at, end]);

describe('a performance', () => {
  it('gives the same events in two neighbouring windows as in one, chords and ends included', () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.integer({ min: 0, max: 100 }),
        (seed, share, swing) => {
          const { score, takes } = scoreWith(seed, swing);
          const { from, to } = wholeSpan(score);
          const cut = Math.round(from + (to - from) * share);
          const events = (span: Span) =>
            perform({
              music: musicOf(score, takes),
              course: songCourse(score),
              span,
              chordLine: ({ chordSetting }) => chordSetting,
            }).events;
          expect([...events({ from, to: cut }), ...events({ from: cut, to })]).toEqual(events({ from, to }));
        },
      ),
      { numRuns: 60 },
    );
  });

  it('tells which notes still sound when a window begins', () => {
    fc.assert(
      fc.property(fc.integer(), fc.double({ min: 0, max: 1, noNaN: true }), (seed, share) => {
        const { score, takes } = scoreWith(seed, 0);
        const { from, to } = wholeSpan(score);
        const cut = Math.round(from + (to - from) * share);
        const request = { music: musicOf(score, takes), course: songCourse(score) };
        const expected = perform({ ...request, span: { from, to } }).events.filter(
          (event) => event.kind === 'note' && event.at < cut && event.end > cut,
        );
        const { chase } = perform({ ...request, span: { from: cut, to } });
        expect(new Set(chase.map((event) => JSON.stringify(event)))).toEqual(
          new Set(expected.map((event) => JSON.stringify(event))),
        );
      }),
      { numRuns: 60 },
    );
  });

  it('sounds a heard take in place of the chosen one, only in its section', () => {
    const { score, takes } = scoreWith(1, 0);
    const section = score.sections[0]!;
    const part = score.parts[0]!;
    const other = Object.values(takes).find(
      (take) => take.of === 'part' && take.part === part.id && take.id !== chosenId(section, part.id),
    )!;
    const sounding = heardNotes(score, takes, { [section.id]: { [part.id]: other.id } }).filter(
      (heard) => heard.part === part.id && heard.start < 3840,
    );
    expect(sounding.map(({ pitch }) => pitch)).toEqual(
      other.of === 'part' ? other.notes.map(({ pitch }) => pitch) : [],
    );
  });

  it('lets a pick-up sound before its section, the first one too, silence what came before it, and a last note ring', () => {
    const { score, music } = alone([note(-240, 240), note(0, 480, 72), note(3360, 9000, 74)], 2);
    const { events } = perform({ music, course: songCourse(score) });
    expect(times(events)).toEqual([
      [-240, 0],
      [0, 480],
      [3360, 3600],
      [3600, 3840],
      [3840, 4320],
      [7200, 9600],
    ]);
    expect(pickUpOf(music, songCourse(score))).toBe(240);
    expect(pickUpOf(music, songCourse(score), () => false)).toBe(0);
  });

  it('lets what is looped follow itself: its pick-up sounds before the repeat, its last note rings into it', () => {
    const { score, music } = alone([note(-240, 240), note(480, 480, 72), note(3360, 9000, 74)], 3);
    const loop = { from: 3840, to: 7680 };
    const course = loopCourse(score, loop);
    expect(times(perform({ music, course, span: loop }).events)).toEqual([
      [4320, 4800],
      [7200, 7440],
      [7440, 7680],
    ]);
    const ringing = alone([note(480, 480, 72), note(3360, 9000, 74)], 3);
    expect(
      times(perform({ music: ringing.music, course: loopCourse(ringing.score, loop), span: loop }).events),
    ).toEqual([
      [4320, 4800],
      [7200, 8160],
    ]);
  });

  it('begins bars that are looped by themselves with what is held there, every time', () => {
    const { score, music } = alone([note(0, 3840)], 1);
    const loop = { from: 1920, to: 3840 };
    expect(times(perform({ music, course: loopCourse(score, loop), span: loop }).events)).toEqual([[1920, 3840]]);
  });

  it('does not let the pick-up of what comes next into a loop', () => {
    const { score, takes } = scoreWith(1, 0);
    const [verse, chorus] = score.sections;
    const part = score.parts[0]!.id;
    const led = { ...takeOf(part, chorus!.id, [note(-240, 200), note(0, 480)]), id: 'led' };
    const own = { ...takeOf(part, verse!.id, [note(0, 480)]), id: 'plain' };
    const song = {
      ...score,
      ground: { ...score.ground, feel: 0 },
      parts: score.parts.slice(0, 1),
      sections: [
        withChoice({ ...verse!, chosen: {} }, part, 'plain'),
        withChoice({ ...chorus!, chosen: {} }, part, 'led'),
      ],
    };
    const music = musicOf(song, { ...takes, led, plain: own });
    const loop = { from: 0, to: 3840 };
    const starts = (course: ReturnType<typeof songCourse>) =>
      times(perform({ music, course, span: loop }).events).map(([at]) => at);
    expect(starts(songCourse(song))).toEqual([0, 3600]);
    expect(starts(loopCourse(song, loop))).toEqual([0]);
  });

  it('clips a take that is longer than its shortened section', () => {
    const { score, takes } = scoreWith(3, 0);
    const short = {
      ...score,
      sections: score.sections.map((section) => ({ ...section, bars: 1 })),
      order: score.order.slice(0, 1),
    };
    for (const { start } of heardNotes(short, takes)) expect(start).toBeLessThan(1920);
  });

  it('ends every note before the same one starts again, and leaves the notes that do not meet as they are', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.integer({ max: 500, min: 0 }),
            fc.integer({ min: 1, max: 300 }),
            fc.integer({ min: 60, max: 62 }),
          ),
        ),
        (raw) => {
          const notes = raw
            .map(([start, length, pitch]) => note(start, length, pitch))
            .sort((a, b) => a.start - b.start);
          const result = withoutOverlaps(notes);
          for (const one of result)
            for (const other of result)
              if (one !== other && one.pitch === other.pitch)
                expect(one.start + one.duration <= other.start || other.start + other.duration <= one.start).toBe(true);
          const starts = (list: readonly Note[]) => new Set(list.map(({ start, pitch }) => `${start} ${pitch}`));
          expect(starts(result)).toEqual(starts(notes));
          expect(withoutOverlaps(notes)).toBe(result);
        },
      ),
    );
  });

  it('tells every voice with its level, pan and instrument, and the chord line with that of its section', () => {
    const { score, takes } = scoreWith(2, 0);
    const turned = {
      ...score,
      parts: score.parts.map((part, index) => ({ ...part, pan: [-100, 0, 100][index] ?? 0, level: 100 })),
      sections: score.sections.map((section, index) => ({
        ...section,
        chordSetting: { ...section.chordSetting, family: index === 0 ? ('keyboard' as const) : ('guitar' as const) },
      })),
    };
    const request = { music: musicOf(turned, takes), course: songCourse(turned) };
    const { setup, events } = perform({ ...request, chordLine: ({ chordSetting }) => chordSetting });
    expect(setup.map(({ id }) => id)).toEqual([...score.parts.map(({ id }) => id), HARMONY]);
    expect(setup.slice(0, 3).map(({ pan }) => pan)).toEqual([1, 64, 127]);
    expect(setup[0]!.level).toBe(127);
    expect(events.flatMap((event) => (event.kind === 'program' ? [[event.at, event.instrument.id]] : []))).toEqual([
      [0, 'grand-piano'],
      [3840, 'steel-guitar'],
      [7680, 'grand-piano'],
    ]);
    const later = perform({
      ...request,
      span: { from: 4000, to: 5000 },
      chordLine: ({ chordSetting }) => chordSetting,
    });
    expect(later.chase.find(({ kind }) => kind === 'program')).toMatchObject({ at: 3840 });
    expect(perform(request).events.some(({ voice }) => voice === HARMONY)).toBe(false);
  });

  it('is what pictures and measurements see, at every place of the running order', () => {
    const { score, takes } = scoreWith(4, 0);
    const plain = { ...score, ground: { ...score.ground, feel: 0 } };
    const starts = layOut(plain).map(({ start }) => start);
    const kick = heardNotes(plain, takes, NOTHING_HEARD).filter(({ pitch }) => pitch === 36);
    for (const start of starts)
      expect(kick.some((stroke) => stroke.start >= start && stroke.start < start + 480)).toBe(true);
  });
});
