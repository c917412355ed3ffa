import * as fc from 'fast-check';
import { readMessage, writeMessage, type MidiMessage } from './midi-message';

const channel = fc.integer({ min: 0, max: 15 });
const seven = fc.integer({ min: 0, max: 127 });
const message: fc.Arbitrary<MidiMessage> = fc.oneof(
  fc.record({
    says: fc.constant('note on' as const),
    channel,
    pitch: seven,
    velocity: fc.integer({ min: 1, max: 127 }),
  }),
  fc.record({ says: fc.constant('note off' as const), channel, pitch: seven }),
  fc.record({ says: fc.constant('pressure' as const), channel, pitch: fc.option(seven), value: seven }),
  fc.record({ says: fc.constant('control' as const), channel, controller: seven, value: seven }),
  fc.record({ says: fc.constant('program' as const), channel, program: seven }),
  fc.record({ says: fc.constant('bend' as const), channel, value: fc.integer({ min: -8192, max: 8191 }) }),
  fc.record({ says: fc.constant('position' as const), sixteenths: fc.integer({ min: 0, max: 16_383 }) }),
  fc.constantFrom('clock', 'start', 'continue', 'stop').map((says): MidiMessage => ({ says })),
);

describe('messages of devices', () => {
  it('come back as they were sent', () => {
    fc.assert(
      fc.property(message, (sent) => {
        expect(readMessage(writeMessage(sent))).toEqual(sent);
      }),
    );
  });

  it('are whole bytes, whatever is asked for', () => {
    const wild = fc.double({ min: -1e6, max: 1e6, noNaN: true });
    fc.assert(
      fc.property(wild, wild, wild, (at, a, b) => {
        for (const sent of [
          { says: 'note on', channel: at, pitch: a, velocity: b },
          { says: 'control', channel: at, controller: a, value: b },
          { says: 'bend', channel: at, value: a },
          { says: 'position', sixteenths: b },
        ] as const) {
          const [status, ...data] = writeMessage(sent);
          expect(status).toBeGreaterThanOrEqual(0x80);
          for (const byte of data) expect(Number.isInteger(byte) && byte >= 0 && byte <= 127).toBe(true);
          expect(readMessage(writeMessage(sent))?.says).toBe(sent.says);
        }
      }),
    );
  });

  it('of any bytes are read or passed over, never refused loudly', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 255 }), { maxLength: 5 }), (bytes) => {
        const read = readMessage(bytes);
        if (read && 'channel' in read) expect(read.channel).toBeLessThan(16);
        if (bytes.length === 0 || bytes[0]! < 0x80) expect(read).toBeNull();
      }),
      { numRuns: 2000 },
    );
    expect(readMessage([0x90, 60, 0])).toEqual({ says: 'note off', channel: 0, pitch: 60 });
    expect(readMessage([0x90, 60])).toBeNull();
    expect(readMessage([0xf0, 1, 2])).toBeNull();
  });
});
