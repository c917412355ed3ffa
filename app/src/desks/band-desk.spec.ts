import { TestBed } from '@angular/core/testing';
import { Store } from '@ngrx/store';
import fc from 'fast-check';
import { INSTRUMENTS, instrumentOf } from '@fendro/core/sounding/instruments';
import { Playback } from '../sound/playback';
import { provideSong } from '../store/provide-song';
import { selectOwnScore } from '../store/selectors';
import { SongActions } from '../store/song.actions';
import { songFeature } from '../store/song.reducer';
import { silentPlayback, SMALL } from '../testing/view';
import { BandDesk } from './band-desk';

describe('the band', () => {
  let store: Store;
  const score = () => store.selectSignal(selectOwnScore)()!;

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideSong(), { provide: Playback, useValue: silentPlayback() }] });
    store = TestBed.inject(Store) as Store;
    store.dispatch(SongActions.opened({ song: SMALL.song }));
  });

  it('keeps a register inside what another instrument can play, in one step', () => {
    const desk = TestBed.inject(BandDesk);
    const before = store.selectSignal(songFeature.selectPast)().length;
    desk.setInstrument(score().parts[0]!, 'upright-bass');
    expect(store.selectSignal(songFeature.selectPast)()).toHaveLength(before + 1);
    fc.assert(
      fc.property(fc.constantFrom(...INSTRUMENTS), fc.nat({ max: SMALL.score.parts.length - 1 }), (instrument, at) => {
        desk.setInstrument(score().parts[at]!, instrument.id);
        const { brief } = score().parts[at]!;
        const { low, high } = instrumentOf(instrument.id);
        expect(score().parts[at]!.instrument).toBe(instrument.id);
        expect(brief.low).toBeGreaterThanOrEqual(Math.min(low, high));
        expect(brief.high).toBeLessThanOrEqual(high);
        expect(brief.low).toBeLessThan(brief.high);
      }),
      { numRuns: 60 },
    );
  });

  it('adds parts under names of their own, hears them alone, and takes them out again', () => {
    const desk = TestBed.inject(BandDesk);
    desk.add('melody');
    desk.add('melody');
    const names = score().parts.map(({ name }) => name);
    expect(new Set(names).size).toBe(names.length);
    const added = score().parts.at(-1)!;
    desk.toggleAlone(added.id);
    expect(desk.isAlone(added.id)).toBe(true);
    desk.remove(added.id);
    expect(score().parts.map(({ id }) => id)).not.toContain(added.id);
  });
});
