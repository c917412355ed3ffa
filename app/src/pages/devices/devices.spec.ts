import { TestBed } from '@angular/core/testing';
import { walkable } from '@fendro/core/live/chords-offered';
import { chordOn } from '@fendro/core/live/keys-of-device';
import { inMask, pitchClassOf } from '@fendro/core/theory/pitch';
import { pickIndex, stream } from '@fendro/core/trellis/random';
import { LearnedControls } from '../../commands/learned-controls';
import { Teaching } from '../../desks/devices/teaching';
import { DeviceUses } from '../../desks/devices/device-uses';
import { MixDesk } from '../../desks/mix-desk';
import { PlayDesk } from '../../desks/playing/play-desk';
import { PlayPort } from '../../desks/playing/play-port';
import { SimulatedDevices } from '../../devices/simulated/simulated-devices';
import { LiveSound } from '../../sound/live-sound';
import { Notices } from '../../store/notices';
import { Shelf } from '../../store/shelf';
import { SessionActions, sessionFeature } from '../../store/session';
import { openMemory } from '../../testing/memory-database';
import { quietHands, SMALL, viewOf } from '../../testing/view';
import { Devices } from './devices';

const [melody, second] = SMALL.score.parts;
const BASS = SMALL.score.parts.find(({ role }) => role === 'bass')!;
const DRUMS = SMALL.score.parts.find(({ role }) => role === 'drums')!;

async function opened(line: string = melody!.id) {
  openMemory();
  const hands = quietHands();
  const view = viewOf(Devices, {
    providers: [{ provide: LiveSound, useValue: hands }],
    done: [SessionActions.lineFocused({ line })],
  });
  // The shelf has been read.
  await view.fixture.whenStable();
  const { keyboard, controller } = TestBed.inject(SimulatedDevices);
  const desk = TestBed.inject(PlayDesk);
  const settle = (): void => {
    TestBed.tick();
    view.fixture.detectChanges();
  };
  view.click('button', 'Plug in: Simulated keyboard');
  view.click('button', 'Plug in: Simulated controller');
  settle();
  const sounding = (): readonly number[] => [...desk.hands().sounding.keys()];
  const slide = (value: number): void => {
    controller.say({ says: 'control', channel: 0, controller: 20, value });
    settle();
  };
  const notices = (): string[] =>
    TestBed.inject(Notices)
      .open()
      .map(({ text }) => text);
  return { view, hands, desk, keyboard, controller, settle, sounding, slide, notices };
}

describe('devices that play', () => {
  it('sound the line in focus as hard as their keys are struck, and fall silent when they are pulled out', async () => {
    const { view, hands, keyboard, settle, sounding } = await opened();
    keyboard.say({ says: 'note on', channel: 0, pitch: 64, velocity: 33 });
    expect(hands.sound.mock.lastCall![1]).toMatchObject([{ pitch: 64, velocity: 33 }]);
    keyboard.say({ says: 'control', channel: 0, controller: 64, value: 127 });
    keyboard.say({ says: 'note off', channel: 0, pitch: 64 });
    expect(sounding()).toEqual([64]);
    view.click('button', 'Pull out: Simulated keyboard');
    settle();
    expect(sounding()).toEqual([]);
    keyboard.say({ says: 'note on', channel: 0, pitch: 64, velocity: 33 });
    expect(sounding()).toEqual([]);
  });

  it('bend and waver what sounds', async () => {
    const { hands, keyboard } = await opened();
    keyboard.say({ says: 'bend', channel: 0, value: 8191 });
    keyboard.say({ says: 'pressure', channel: 0, pitch: null, value: 127 });
    keyboard.say({ says: 'control', channel: 0, controller: 1, value: 0 });
    expect(hands.bend.mock.lastCall).toEqual([200]);
    expect(hands.waver.mock.calls).toEqual([[100], [0]]);
  });

  it('choose chords with their low keys and give way to them with the high ones, where that is wished', async () => {
    const { view, hands, keyboard, desk, sounding } = await opened(BASS.id);
    view.set('combobox', 'How keys of Simulated keyboard sound', 'fitted');
    view.set('combobox', 'Keys of Simulated keyboard that choose chords', '48');
    expect(TestBed.inject(DeviceUses).of('Simulated keyboard')).toMatchObject({ keys: 'fitted', split: 48 });
    keyboard.say({ says: 'note on', channel: 0, pitch: 43, velocity: 80 });
    expect(desk.hands().chosen).not.toBeNull();
    expect(sounding()).toEqual([]);
    const { chord } = desk.hands();
    expect(pitchClassOf(chord!.root)).toBe(pitchClassOf(desk.offered()[chordOn(43, desk.offered())]!.chord.root));
    hands.sound.mockClear();
    for (let pitch = 48; pitch < 60; pitch++) {
      keyboard.say({ says: 'note on', channel: 0, pitch, velocity: 80 });
      keyboard.say({ says: 'note off', channel: 0, pitch });
    }
    const struck = hands.sound.mock.calls.flatMap(([, strikes]) => strikes.map(({ pitch }) => pitch));
    expect(struck).toHaveLength(12);
    for (const pitch of struck) expect(inMask(walkable(chord, SMALL.score.ground), pitch)).toBe(true);
  });

  it('strike drums as they are', async () => {
    const { view, keyboard, sounding } = await opened(DRUMS.id);
    view.set('combobox', 'How keys of Simulated keyboard sound', 'fitted');
    keyboard.say({ says: 'note on', channel: 9, pitch: 37, velocity: 80 });
    expect(sounding()).toEqual([37]);
  });

  it('make recording possible without the drawer', async () => {
    await opened();
    expect(TestBed.inject(PlayPort).acts()).not.toBeNull();
  });

  it('play by script, a beat each, and say what is wrong with one', async () => {
    jest.useFakeTimers();
    try {
      const { view, sounding } = await opened();
      view.set('textbox', 'Notes to play, a beat each', 'C3+E3 - G3', 'input');
      view.click('button', 'Play them');
      const beat = 60_000 / SMALL.score.ground.tempo;
      jest.advanceTimersByTime(beat / 2);
      expect(sounding()).toEqual([48, 52]);
      jest.advanceTimersByTime(beat);
      expect(sounding()).toEqual([]);
      jest.advanceTimersByTime(beat);
      expect(sounding()).toEqual([55]);
      jest.advanceTimersByTime(beat);
      expect(sounding()).toEqual([]);
      view.set('textbox', 'Notes to play, a beat each', 'H3', 'input');
      view.click('button', 'Play them');
      expect(view.by.getByRole('alert').textContent).toMatch(/“H3” is no note/);
    } finally {
      jest.useRealTimers();
    }
  });
});

describe('controls of devices', () => {
  const learn = (view: Awaited<ReturnType<typeof opened>>['view'], words: string): void => {
    view.find('What it should do', words);
  };
  const followed = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 30));

  it('learn a slider by being touched, move it from then on, as one step, and forget it', async () => {
    const { view, slide, notices } = await opened();
    slide(10);
    learn(view, `Level of ${second!.name}`);
    expect(notices()[0]).toMatch(/^Controller 20, channel 1 of Simulated controller: Level of/);
    for (const value of [0, 64, 127]) slide(value);
    await followed();
    expect(view.score.parts[1]!.level).toBe(100);
    expect(view.song.past).toHaveLength(1);
    view.fixture.detectChanges();
    view.click('button', `Forget: Level of ${second!.name}`);
    slide(0);
    await followed();
    expect(view.score.parts[1]!.level).toBe(100);
  });

  it('tell what they did before, who does so too, and that a key plays no more; and are put back', async () => {
    const { view, keyboard, settle, slide, notices } = await opened();
    slide(10);
    learn(view, 'Metronome');
    learn(view, 'Tap the tempo');
    expect(notices().at(-1)).toMatch(/no more what it did before: Metronome/);
    keyboard.say({ says: 'note on', channel: 0, pitch: 40, velocity: 50 });
    settle();
    learn(view, 'Tap the tempo');
    expect(notices().at(-1)).toMatch(/^Key E2.*Controller 20, channel 1 does so, too\. It plays no note any more/);
    const slip = TestBed.inject(Notices);
    slip.act(slip.open().at(-1)!);
    const teaching = TestBed.inject(Teaching);
    expect(teaching.learned()).toHaveLength(1);
  });

  it('are shown in the song what to do: the next command or slider is learned and not done', async () => {
    const { view, controller, keyboard, settle, sounding } = await opened();
    const metronome = view.store.selectSignal(sessionFeature.selectMetronome);
    controller.say({ says: 'note on', channel: 9, pitch: 36, velocity: 100 });
    settle();
    view.click('button', 'Show it in the song');
    const learned = TestBed.inject(LearnedControls) as unknown as {
      commands: { run(c: unknown): boolean; of(id: string): unknown };
    };
    const { commands } = learned;
    commands.run(commands.of('transport.metronome'));
    settle();
    expect(metronome()).toBe(false);
    // Pressed once, though the device goes on saying that it is down.
    for (const velocity of [100, 100]) controller.say({ says: 'note on', channel: 9, pitch: 36, velocity });
    expect(metronome()).toBe(true);
    controller.say({ says: 'note off', channel: 9, pitch: 36 });
    controller.say({ says: 'note on', channel: 9, pitch: 36, velocity: 100 });
    expect(metronome()).toBe(false);
    expect(sounding()).toEqual([]);

    keyboard.say({ says: 'control', channel: 3, controller: 7, value: 9 });
    settle();
    view.click('button', 'Show it in the song');
    TestBed.inject(MixDesk).set(view.score.parts[0]!, 'pan', 40);
    expect(view.score.parts[0]!.pan).toBe(melody!.pan);
    expect(
      TestBed.inject(Shelf)
        .contents()
        .controls.map(({ does }) => does),
    ).toContainEqual({ slider: 'pan', place: 0 });
    keyboard.say({ says: 'control', channel: 3, controller: 7, value: 127 });
    await followed();
    expect(view.score.parts[0]!.pan).toBe(100);
  });
});

describe('whatever devices say', () => {
  it('ten thousand events of any kind leave no note hanging and no error', async () => {
    const { keyboard, controller, view, settle, hands, sounding } = await opened();
    view.set('combobox', 'Keys of Simulated keyboard that choose chords', '60');
    const open = new Set<number>();
    hands.sound.mockImplementation((ends, strikes) => {
      for (const pitch of ends) open.delete(pitch);
      for (const { pitch, lasts } of strikes) if (lasts === null) open.add(pitch);
    });
    const roll = stream(7, 'storm');
    const kinds = [0x80, 0x90, 0x90, 0x90, 0xa0, 0xb0, 0xd0, 0xe0, 0xf0, 0xf8, 0xff];
    const bytes = (): number[] => {
      const status = kinds[pickIndex(roll, kinds.length)]!;
      const some = (): number => pickIndex(roll, 140);
      return [status | (status < 0xf0 ? some() % 16 : 0), some(), some()].slice(0, 1 + (some() % 4));
    };
    for (let event = 0; event < 10_000; event++) {
      const device = event % 5 === 0 ? controller : keyboard;
      device.saysBytes(bytes());
      if (event % 997 === 0) {
        view.click('button', 'Pull out: Simulated keyboard');
        settle();
        view.click('button', 'Plug in: Simulated keyboard');
        settle();
      }
    }
    view.click('button', 'Pull out: Simulated keyboard');
    view.click('button', 'Pull out: Simulated controller');
    settle();
    expect(sounding()).toEqual([]);
    expect([...open]).toEqual([]);
  });
});
