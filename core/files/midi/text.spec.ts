import * as fc from 'fast-check';
import { readText, utf8 } from './text';

const asCharacters = (bytes: readonly number[]): string => bytes.map((byte) => String.fromCharCode(byte)).join('');

describe('text in MIDI files', () => {
  it('is UTF-8 as the platform writes it, lost halves of letters replaced', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (text) => {
        expect(utf8(text)).toEqual([...new TextEncoder().encode(text)]);
      }),
    );
  });

  it('comes back as it went out', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), (text) => {
        expect(readText(asCharacters(utf8(text)))).toBe(
          text.replaceAll(/\p{Cc}/gu, (control) => (/[\t\n\r]/.test(control) ? ' ' : '')),
        );
      }),
    );
  });

  it('is read as Latin-1 where it is no UTF-8, without the padding of other programs', () => {
    expect(readText('F\u00f6hn')).toBe('Föhn');
    expect(readText('Bass\0\0\0')).toBe('Bass');
    expect(readText('\u00c3\u00b6')).toBe('ö');
  });
});
