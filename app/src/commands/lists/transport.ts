import { inject } from '@angular/core';
import { Store } from '@ngrx/store';
import { SheetDesk } from '../../desks/sheet-desk';
import { TapTempo } from '../../desks/tap-tempo';
import { Playback } from '../../sound/playback';
import { SessionActions, type SwitchAt, sessionFeature } from '../../store/session';
import { grouped, type Command } from '../command';

const MOMENTS: Readonly<Record<SwitchAt, string>> = {
  bar: 'Let tried takes in at the bar',
  beat: 'Let tried takes in at the beat',
  top: 'Let tried takes in from the top',
};

export function transportCommands(): readonly Command[] {
  const [store, playback, sheet, tap] = [inject(Store), inject(Playback), inject(SheetDesk), inject(TapTempo)];
  const looping = store.selectSignal(sessionFeature.selectLooping);
  const metronome = store.selectSignal(sessionFeature.selectMetronome);
  const moment = store.selectSignal(sessionFeature.selectSwitchAt);
  return grouped('Transport', 'workspace', [
    {
      id: 'transport.play',
      words: 'Play or stop',
      now: () => (playback.playing() ? 'Stop' : 'Play'),
      keys: ['Space'],
      region: 'anywhere',
      run: () => playback.toggle(),
    },
    {
      id: 'transport.play-here',
      words: 'Play from here',
      keys: ['p'],
      run: () => {
        sheet.playFromHere();
      },
    },
    {
      id: 'transport.loop',
      words: 'Loop the section or the selected bars',
      keys: ['o'],
      pressed: () => looping(),
      run: () => {
        store.dispatch(SessionActions.loopToggled());
      },
    },
    {
      id: 'transport.metronome',
      words: 'Metronome',
      keys: ['m'],
      pressed: () => metronome(),
      run: () => {
        store.dispatch(SessionActions.metronomeToggled());
      },
    },
    {
      id: 'transport.tap',
      words: 'Tap the tempo',
      keys: ['t'],
      run: () => {
        tap.tap();
      },
    },
    ...(Object.keys(MOMENTS) as SwitchAt[]).map((switchAt) => ({
      id: `transport.in-at-${switchAt}`,
      words: MOMENTS[switchAt],
      keys: [],
      pressed: () => moment() === switchAt,
      run: () => {
        store.dispatch(SessionActions.switchMomentSet({ switchAt }));
      },
    })),
  ]);
}
