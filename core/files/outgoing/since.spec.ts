import * as fc from 'fast-check';
import { fingerprintOf } from './fingerprint';
import { goneSince, handedNow, sinceThen } from './since';

const files = fc.uniqueArray(fc.record({ name: fc.string({ minLength: 1 }), print: fc.string() }), {
  selector: ({ name }) => name,
  maxLength: 12,
});

describe('what was handed over before', () => {
  it('is the same after it went out, and changed or new otherwise', () => {
    fc.assert(
      fc.property(files, files, (then, now) => {
        const before = handedNow({}, then, then);
        expect(then.map((file) => sinceThen(before, file))).toEqual(then.map(() => 'same'));
        for (const file of now) {
          const old = then.find(({ name }) => name === file.name);
          expect(sinceThen(before, file)).toBe(!old ? 'new' : old.print === file.print ? 'same' : 'changed');
        }
        const changed = now.filter((file) => sinceThen(before, file) !== 'same');
        const after = handedNow(before, changed, now);
        expect(now.map((file) => sinceThen(after, file))).toEqual(now.map(() => 'same'));
        expect(goneSince(after, now)).toEqual([]);
      }),
    );
  });

  it('says which files are none of the song any more', () => {
    const [bass, tune] = [
      { name: '02 Bass.mid', print: 'a' },
      { name: '01 Tune.mid', print: 'b' },
    ];
    expect(goneSince(handedNow({}, [bass, tune], [bass, tune]), [tune])).toEqual(['02 Bass.mid']);
  });
});

describe('the fingerprint of a file', () => {
  it('is the same for the same bytes, and another where one bit is another', () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 1, maxLength: 400 }), fc.nat(), fc.nat(7), (bytes, place, bit) => {
        expect(fingerprintOf(Uint8Array.from(bytes))).toBe(fingerprintOf(bytes));
        const other = Uint8Array.from(bytes);
        other[place % other.length]! ^= 1 << bit;
        expect(fingerprintOf(other)).not.toBe(fingerprintOf(bytes));
        expect(fingerprintOf(Uint8Array.of(...bytes, 0))).not.toBe(fingerprintOf(bytes));
      }),
    );
    expect(fingerprintOf(new Uint8Array())).toMatch(/^[0-9a-f]{16}$/);
  });
});
