import '../../core/song/validation';
import { readMidi } from '../../core/files/midi/midi-read';
import { sayPitch } from '../../core/live/device-control';
import { PULSES } from '../../core/live/midi-clock';
import { readMessage, writeMessage, type MidiMessage } from '../../core/live/midi-message';
import { NOTHING_CAME, placeHeard, studioHeard, tempoHeard } from '../../core/live/studio';
import { ownMoment, readWire, WIRE, wiredMoment, type Wired } from './wire';

/** The simulated studio: a page of its own that is sent notes, clock and files, shows what came, and leads on request. */

/** How often what came is drawn, and how often pulses are sent, in ms. */
const DRAWN_EVERY = 100;
const SENT_EVERY = 20;
/** A page that nobody sees is asked once a second only: it sends further ahead. */
const ahead = (): number => (document.hidden ? 1500 : 60);
const BEATS = 4;

function element<T extends HTMLElement>(id: string, kind: new () => T): T {
  const found = document.getElementById(id);
  if (!(found instanceof kind)) throw new Error(`no ${id} on the page`);
  return found;
}

const wire = new BroadcastChannel(WIRE);
const tempo = element('tempo', HTMLInputElement);
const bar = element('bar', HTMLInputElement);
let heard = NOTHING_CAME;
/** The clock that this studio gives: when its first pulse was due, and how many have been sent. */
let leads: { readonly tempo: number; readonly zero: number; readonly from: number; sent: number } | null = null;
let timer: ReturnType<typeof setInterval> | undefined;

const projectTempo = (): number => Math.min(300, Math.max(20, tempo.valueAsNumber || 120));

function send(message: MidiMessage, at = performance.now()): void {
  const wired: Wired = { says: 'message', to: 'fendro', bytes: [...writeMessage(message)], at: wiredMoment(at) };
  wire.postMessage(wired);
}

const tellOthers = (says: 'here' | 'who is there' | 'gone'): void => {
  wire.postMessage({ says, from: 'studio' } satisfies Wired);
};

function show(id: string, text: string): void {
  element(id, HTMLElement).textContent = text;
}

function rows(id: string, cells: readonly (readonly string[])[]): void {
  element(id, HTMLElement).replaceChildren(
    ...cells.map((texts) => {
      const row = document.createElement('tr');
      row.replaceChildren(...texts.map((text) => Object.assign(document.createElement('td'), { textContent: text })));
      return row;
    }),
  );
}

function draw(): void {
  const { clock, furthest, channels } = heard;
  const came = tempoHeard(heard);
  const { bar: heardBar, beat } = placeHeard(heard);
  // A clock whose last pulses came too raggedly to tell a tempo has come all the same.
  show('clock', clock.running ? 'runs' : clock.recent.length === 0 ? 'none' : 'stands');
  show('place', clock.pulses > 0 ? `${heardBar}.${beat}` : '–');
  show('heard-tempo', came === null ? '–' : `${came.toFixed(1)} BPM`);
  show('drift', heard.since > 0 ? `${furthest.toFixed(2)} ms` : '–');
  rows(
    'channels',
    [...channels]
      .sort(([a], [b]) => a - b)
      .map(([channel, { program, struck, low, high, sounding }]) => [
        String(channel + 1),
        program === null ? '–' : String(program + 1),
        String(struck),
        struck === 0 ? '–' : `${sayPitch(low)}, ${sayPitch(high)}`,
        [...sounding]
          .sort((a, b) => a - b)
          .map(sayPitch)
          .join(' '),
      ]),
  );
}

function pulse(): void {
  if (!leads) return;
  const each = 60_000 / (leads.tempo * PULSES);
  const until = performance.now() + ahead();
  while (leads.zero + leads.sent * each < until) {
    send({ says: 'clock' }, leads.zero + leads.sent * each);
    leads.sent++;
  }
  const beats = leads.from + Math.max(0, Math.floor((performance.now() - leads.zero) / (each * PULSES)));
  show('leading', `${1 + Math.floor(beats / BEATS)}.${1 + (beats % BEATS)}`);
}

function lead(): void {
  stop();
  const from = BEATS * (Math.max(1, Math.round(bar.valueAsNumber || 1)) - 1);
  const zero = performance.now() + 10;
  send({ says: 'position', sixteenths: 4 * from });
  send({ says: from === 0 ? 'start' : 'continue' });
  leads = { tempo: projectTempo(), zero, from, sent: 0 };
  timer = setInterval(pulse, SENT_EVERY);
  pulse();
}

function stop(): void {
  clearInterval(timer);
  if (leads) send({ says: 'stop' });
  leads = null;
  show('leading', '');
}

async function take(file: File): Promise<void> {
  const read = readMidi(new Uint8Array(await file.arrayBuffer()));
  show('file-problem', read.ok ? '' : read.reason);
  rows(
    'tracks',
    read.ok ? read.file.tracks.map(({ name, notes }) => [name === '' ? '–' : name, String(notes.length)]) : [],
  );
}

wire.addEventListener('message', ({ data }: MessageEvent<unknown>) => {
  const wired = readWire(data);
  if (wired?.says === 'message') {
    const message = wired.to === 'studio' ? readMessage(wired.bytes) : null;
    if (message) heard = studioHeard(heard, message, ownMoment(wired.at), projectTempo());
  } else if (wired?.from === 'fendro') {
    show('there', wired.says === 'gone' ? 'Fendro has gone.' : 'Fendro is there.');
    if (wired.says === 'who is there') tellOthers('here');
  }
});
globalThis.addEventListener('pagehide', () => {
  stop();
  tellOthers('gone');
});
element('lead', HTMLFormElement).addEventListener('submit', (event) => {
  event.preventDefault();
  lead();
});
element('stop', HTMLButtonElement).addEventListener('click', stop);
element('clear', HTMLButtonElement).addEventListener('click', () => {
  heard = NOTHING_CAME;
  draw();
});
element('file', HTMLInputElement).addEventListener('change', ({ target }) => {
  const file = target instanceof HTMLInputElement ? target.files?.[0] : undefined;
  if (file) void take(file);
});
document.addEventListener('dragover', (event) => {
  event.preventDefault();
});
document.addEventListener('drop', (event) => {
  event.preventDefault();
  const file = event.dataTransfer?.files[0];
  if (file) void take(file);
});
tellOthers('here');
setInterval(draw, DRAWN_EVERY);
