import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import type { LiveMoment } from '@fendro/core/live/capture';
import { musicOf, storedSong } from '@fendro/core/testing/sounding';
import { Playback } from '../../sound/playback';
import { provideSong } from '../../store/provide-song';
import { SessionActions } from '../../store/session';
import { SongActions } from '../../store/song.actions';
import { silentPlayback, SMALL } from '../../testing/view';
import { PatternDesk } from '../pattern-desk';
import { Captured } from './captured';
import { LoopStarts } from './loop-starts';

const [place] = SMALL.score.order;
const [melody] = SMALL.score.parts;

it('loops begin anew with the notes of the round that was played last, on sixteenths', () => {
  TestBed.configureTestingModule({
    providers: [provideSong(), { provide: Playback, useValue: { ...silentPlayback(), playing: signal(false) } }],
  });
  const store = TestBed.inject(Store);
  store.dispatch(SongActions.opened({ song: storedSong(musicOf(SMALL.score, SMALL.takes)) }));
  store.dispatch(SessionActions.lineFocused({ line: melody!.id }));
  const [patterns, starts, captured] = [
    TestBed.inject(PatternDesk),
    TestBed.inject(LoopStarts),
    TestBed.inject(Captured),
  ];
  TestBed.tick();
  patterns.begin('loops');
  expect(starts.ready()).toBe(false);
  const struck = (round: number, at: number, section = place!.section): void => {
    const moment: LiveMoment = { section, occurrence: place!.id, round, at };
    const note = { line: melody!.id, pitch: 60, velocity: 80, from: 0, to: 1, chord: null, moment };
    captured.notes.update((notes) => [...notes, note]);
  };
  struck(0, 240);
  struck(1, -10);
  struck(1, 965);
  struck(1, 730);
  struck(3, 0, 'elsewhere');
  expect(starts.ready()).toBe(true);
  starts.take();
  expect(patterns.pattern()).toMatchObject({ of: 'loops', starts: 'played', moments: [0, 720, 960] });
});
