/** Text as bytes and back, without a platform: core knows none. */

/** Halves of letters that lost their other half become the sign for what cannot be shown. */
export const wellFormed = (text: string): string => text.replaceAll(/\p{Surrogate}/gu, '\uFFFD');

/** The bytes of a text in UTF-8 (RFC 3629). */
export function utf8(text: string): number[] {
  const bytes: number[] = [];
  const escaped = encodeURIComponent(wellFormed(text));
  for (let at = 0; at < escaped.length; at++) {
    if (escaped[at] === '%') {
      bytes.push(Number.parseInt(escaped.slice(at + 1, at + 3), 16));
      at += 2;
    } else bytes.push(escaped.charCodeAt(at));
  }
  return bytes;
}

const escapedByte = (byte: number): string => `%${byte.toString(16).padStart(2, '0')}`;

/**
 * Text of a MIDI file, whose standard does not say how it is written: UTF-8 where it is valid UTF-8, else Latin-1.
 * Control characters, with which some programs pad names, are left out.
 *
 * @param bytes  one character a byte, 0–255
 */
export function readText(bytes: string): string {
  const plain = bytes.replaceAll(/\p{Cc}+/gu, (run) =>
    /[\t\n\r]/.test(run) ? ' ' : [...run].filter((character) => character > '\u007F').join(''),
  );
  try {
    return decodeURIComponent([...plain].map((character) => escapedByte(character.charCodeAt(0))).join(''));
  } catch {
    return plain.replaceAll(/\p{Cc}/gu, '');
  }
}
