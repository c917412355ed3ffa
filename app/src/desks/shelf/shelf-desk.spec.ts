import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { roleOf, isDrumRole } from '@fendro/core/song/roles';
import { HARMONY } from '@fendro/core/song/schema';
import { bandSetUp, bareSong, songStart } from '@fendro/core/song/song-start';
import { chosenId } from '@fendro/core/song/section';
import { CHORD_RHYTHMS } from '@fendro/core/styles/chord-rhythms';
import { styleOf } from '@fendro/core/styles/styles';
import { chordsOf } from '@fendro/core/testing/chords';
import { FIRST } from '@fendro/core/treat/first-treatment';
import { firstPattern } from '@fendro/core/patterns/first-pattern';
import { Playback } from '../../sound/playback';
import { EMPTY_SHELF, type ShelfContents } from '../../storage/shelf-storage';
import { SessionActions } from '../../store/session';
import { selectHeard } from '../../store/selectors';
import { Shelf } from '../../store/shelf';
import { silentPlayback, SMALL, viewOf } from '../../testing/view';
import { DraftClient } from '../../work/draft-client';
import { BarsStrip } from '../../workspace/bars-strip';
import { Library } from '../library';
import { ShelfDesk } from './shelf-desk';
import { thingsOf, type SeenKind } from './things';

const { score } = SMALL;
const melody = score.parts.find(({ role }) => role === 'melody')!;
const drums = score.parts.find(({ role }) => isDrumRole(role))!;
const phrase = {
  id: 'phrase-1',
  name: 'Rolling',
  role: 'melody' as const,
  tonic: 0,
  scale: 'major',
  bar: 1920,
  length: 1920,
  notes: [{ start: 0, duration: 240, pitch: 60, velocity: 90 }],
  chords: chordsOf('C', 1920),
};
const kept: ShelfContents = {
  ...EMPTY_SHELF,
  progressions: [
    { id: 'p', name: 'Round', tonic: 0, scale: 'major', length: 3840, bars: 2, chords: chordsOf('C G7', 1920) },
  ],
  rhythms: [CHORD_RHYTHMS[0]!.id],
  phrases: [phrase, { ...phrase, id: 'phrase-2', name: 'Beat', role: 'drums', chords: [] }],
  patterns: [{ id: 'q', name: 'Steps', role: 'melody', pattern: firstPattern(melody, 1) }],
  briefs: [{ id: 'b', name: 'Wild', role: 'melody', brief: { ...roleOf('melody').brief, breath: 77 } }],
  leanings: [{ id: 'l', name: 'airier', moves: [{ setting: 'breath', by: 2 }] }],
  chains: [{ id: 'c', name: 'Up', chain: [[FIRST.transpose]] }],
  styles: [{ ...styleOf('samba'), id: 'own' }],
  bands: [
    {
      id: 'band',
      name: 'Five',
      song: { ...bareSong(bandSetUp({ ...score, parts: [{ ...melody, level: 11 }] }), 'x') },
    },
    { id: 'newer', name: 'Newer', song: { format: 'fendro-song', version: 999 } },
  ],
  starts: [{ id: 'start', name: 'Again', song: { ...bareSong(songStart(score), 'y') } }],
  scales: ['dorian'],
};

function shelfOf(part: string = melody.id) {
  const client = {
    run: jest.fn((_job: unknown, on: { take: (answer: object) => void }) => {
      const notes = [{ start: 0, duration: 480, pitch: 60, velocity: 80 }];
      on.take({ content: { of: 'part', notes }, attempts: { plan: 0, rhythm: 0, pitch: 0, dynamics: 0 } });
      return { done: Promise.resolve(), cancel: jest.fn() };
    }),
  };
  const guest = signal<{ score: typeof score } | null>(null);
  const library = { adopt: jest.fn(() => Promise.resolve({ ok: true, remark: null })) };
  const view = viewOf(BarsStrip, {
    providers: [
      { provide: DraftClient, useValue: client },
      { provide: Playback, useValue: { ...silentPlayback(), guest } },
      { provide: Shelf, useValue: { contents: signal(kept) } },
      { provide: Library, useValue: library },
    ],
    done: [SessionActions.lineFocused({ line: part })],
  });
  const desk = TestBed.inject(ShelfDesk);
  const hear = async (kind: SeenKind, place = 0): Promise<void> => {
    desk.hear(thingsOf(kept).filter((thing) => thing.kind === kind)[place]!);
    for (let turn = 0; turn < 8; turn++) await Promise.resolve();
    await new Promise((resolve) => setTimeout(resolve));
  };
  const heard = () => Object.values(view.store.selectSignal(selectHeard)()).flatMap((lines) => Object.keys(lines));
  const part_ = () => view.score.parts.find(({ id }) => id === part)!;
  return { view, desk, hear, heard, guest, library, part: part_ };
}

describe('things of the shelf', () => {
  it.each([
    ['progressions', HARMONY],
    ['phrases', melody.id],
    ['patterns', melody.id],
    ['briefs', melody.id],
    ['leanings', melody.id],
  ] as const)(
    'of the kind %s are heard in their line, left without a trace, and taken as one step',
    async (kind, line) => {
      const { view, desk, hear, heard } = shelfOf();
      const before = view.score;
      await hear(kind);
      expect(heard()).toContain(line);
      expect(view.score).toBe(before);
      desk.letGo();
      expect(heard()).toEqual([]);
      expect(view.score).toBe(before);
      await hear(kind);
      expect(await desk.take()).toBe(true);
      const section = view.score.sections[0]!;
      expect(chosenId(section, line)).not.toBe(chosenId(before.sections[0]!, line));
      expect(view.song.past).toHaveLength(1);
      expect(heard()).toEqual([]);
      expect(desk.current()).toBeNull();
    },
  );

  it('change the brief with the take that was drafted by it', async () => {
    const { desk, hear, part } = shelfOf();
    await hear('briefs');
    await desk.take();
    expect(part().brief.breath).toBe(77);
    await hear('leanings');
    await desk.take();
    expect(part().brief.breath).toBeGreaterThan(77);
  });

  it('that a part cannot play say so, and are not taken', async () => {
    const { view, desk, hear } = shelfOf(drums.id);
    for (const kind of ['phrases', 'patterns', 'briefs'] as const) {
      await hear(kind);
      expect(desk.problem()).not.toBeNull();
      expect(await desk.take()).toBe(false);
    }
    await hear('phrases', 1);
    expect(desk.problem()).toBeNull();
    expect(await desk.take()).toBe(true);
    expect(view.song.past).toHaveLength(1);
  });

  it('that change how all sounds are heard in place of the song, and taken into it', async () => {
    const { view, desk, hear, guest, part } = shelfOf();
    await hear('chains');
    expect(guest()!.score.parts.find(({ id }) => id === melody.id)!.treatments).toEqual([[FIRST.transpose]]);
    expect(part().treatments).toBeUndefined();
    desk.letGo();
    expect(guest()).toBeNull();
    await hear('chains');
    await desk.take();
    expect([guest(), part().treatments]).toEqual([null, [[FIRST.transpose]]]);

    await hear('bands');
    expect(guest()!.score.parts.map(({ level }) => level)).toEqual([11]);
    await desk.take();
    expect([guest(), part().level]).toEqual([null, 11]);

    await hear('styles');
    expect(guest()!.score.ground.style).toBe('own');
    await desk.take();
    expect(view.score.ground.style).toBe('own');
    expect(view.song.past).toHaveLength(3);
  });

  it('that were left before their band was drafted never sound', async () => {
    const { desk, guest } = shelfOf();
    desk.hear(thingsOf(kept).find(({ kind }) => kind === 'bands')!);
    desk.letGo();
    for (let turn = 0; turn < 20; turn++) await Promise.resolve();
    await new Promise((resolve) => setTimeout(resolve));
    expect(guest()).toBeNull();
  });

  it('begin songs, with sections that no other song has', async () => {
    const { desk, hear, library } = shelfOf();
    await hear('starts');
    expect(await desk.take()).toBe(true);
    const [[begun]] = library.adopt.mock.calls as unknown as [[typeof score]];
    expect(begun.title).toBe('Again');
    expect(begun.sections.map(({ bars }) => bars)).toEqual(songStart(score).sections.map(({ bars }) => bars));
    expect(begun.sections.some(({ id }) => score.sections.some((own) => own.id === id))).toBe(false);
  });

  it('of a newer Fendro are refused in words', async () => {
    const { desk, hear } = shelfOf();
    await hear('bands', 1);
    expect(desk.problem()).toMatch(/newer Fendro/);
  });

  it('set how chords are struck, and lead to the question how music follows a scale', async () => {
    const { view, desk, hear } = shelfOf();
    await hear('rhythms');
    expect(view.score.sections[0]!.chordSetting.rhythm).toBeNull();
    await desk.take();
    expect(view.score.sections[0]!.chordSetting.rhythm).toBe(CHORD_RHYTHMS[0]!.id);
    await hear('scales');
    await desk.take();
    expect(view.session.pendingGround?.change).toEqual({ scale: 'dorian' });
  });
});
