import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** What an independent reader (Debian's python3-mido) finds in a file. */
export interface MidoFile {
  readonly type: number;
  readonly tempo: number;
  readonly metre: readonly [number, number];
  readonly key: string;
  readonly names: readonly string[];
  readonly markers: readonly string[];
  readonly notes: readonly (readonly [
    track: string,
    start: number,
    pitch: number,
    duration: number,
    channel: number,
    velocity: number,
  ])[];
  /** Every tempo and key where it begins, in ticks. */
  readonly tempos: readonly (readonly [at: number, tempo: number])[];
  readonly keys: readonly (readonly [at: number, key: string])[];
  readonly metres: readonly (readonly [at: number, metre: string])[];
  /** Bends, −8192 to 8191, and all controllers but those of the beginning. */
  readonly bends: readonly (readonly [track: string, at: number, value: number])[];
  readonly controllers: readonly (readonly [track: string, at: number, controller: number, value: number])[];
  /** System exclusive messages, without their first and last byte. */
  readonly exclusive: readonly (readonly number[])[];
  /** Notes that started and never ended. */
  readonly hanging: number;
}

const PROGRAM = `
import json, sys, mido
f = mido.MidiFile(sys.argv[1])
out = dict(type=f.type, tempo=None, metre=None, key=None, hanging=0)
for name in ('names', 'markers', 'notes', 'bends', 'controllers', 'tempos', 'keys', 'metres', 'exclusive'): out[name] = []
for t in f.tracks:
    now, open_, name = 0, {}, ''
    for m in t:
        now += m.time
        if m.type == 'track_name':
            name = m.name
            out['names'].append(name)
        elif m.type == 'set_tempo':
            out['tempo'] = out['tempo'] or mido.tempo2bpm(m.tempo)
            out['tempos'].append([now, mido.tempo2bpm(m.tempo)])
        elif m.type == 'time_signature':
            out['metre'] = out['metre'] or [m.numerator, m.denominator]
            out['metres'].append([now, f'{m.numerator}/{m.denominator}'])
        elif m.type == 'key_signature':
            out['key'] = out['key'] or m.key
            out['keys'].append([now, m.key])
        elif m.type == 'marker': out['markers'].append(m.text)
        elif m.type == 'sysex': out['exclusive'].append(list(m.data))
        elif m.type == 'pitchwheel': out['bends'].append([name, now, m.pitch])
        elif m.type == 'control_change': out['controllers'].append([name, now, m.control, m.value])
        elif m.type == 'note_on' and m.velocity > 0: open_[(m.channel, m.note)] = (now, m.velocity)
        elif m.type in ('note_off', 'note_on'):
            start = open_.pop((m.channel, m.note), None)
            if start is not None: out['notes'].append([name, start[0], m.note, now - start[0], m.channel, start[1]])
    out['hanging'] += len(open_)
print(json.dumps(out))
`;

const folder = mkdtempSync(join(tmpdir(), 'fendro-midi-'));
let count = 0;

export function saveFile(bytes: Uint8Array, ending: string): string {
  const path = join(folder, `${count++}.${ending}`);
  writeFileSync(path, bytes);
  return path;
}

export const readWithMido = (path: string): MidoFile =>
  JSON.parse(
    execFileSync('/usr/bin/python3', ['-c', PROGRAM, path], { encoding: 'utf8', timeout: 20_000 }),
  ) as MidoFile;

/** The dump of another independent reader, line by line. */
export const dumpWithMidicsv = (path: string): string[] =>
  execFileSync('timeout', ['20', 'midicsv', path], { encoding: 'latin1' }).trim().split('\n');

/** Seconds and peak level of the file as a third program plays it. */
export function renderWithFluidsynth(path: string): { seconds: number; peak: number } {
  const wave = join(folder, `${count++}.wav`);
  execFileSync('fluidsynth', ['-ni', '-g', '0.5', '-F', wave, '/usr/share/sounds/sf2/FluidR3_GM.sf2', path], {
    timeout: 120_000,
    stdio: 'ignore',
  });
  const seconds = Number(execFileSync('soxi', ['-D', wave], { encoding: 'utf8' }));
  const statistics = execFileSync('bash', ['-c', `sox "$0" -n stat 2>&1`, wave], { encoding: 'utf8' });
  return { seconds, peak: Number(/Maximum amplitude:\s+([\d.]+)/.exec(statistics)?.[1] ?? 0) };
}
