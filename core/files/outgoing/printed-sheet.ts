import { leadSheet, type LeadSheet } from '../../notation/lead-sheet';
import type { Music } from '../../song/resolve';
import type { PartId } from '../../song/schema';
import { musicXml } from './musicxml';

/** A lead sheet as it goes out, and what is on it. */
export interface PrintedSheet {
  readonly sheet: LeadSheet;
  /** The same as a MusicXML document. */
  readonly xml: string;
  /** Bars on paper, the pick-up not counted. */
  readonly bars: number;
  readonly repeats: number;
  readonly pickUp: boolean;
}

/** The lead sheet of a part; null where it plays nothing. */
export function printedSheet(chosen: Music, partId: PartId): PrintedSheet | null {
  const part = chosen.score.parts.find(({ id }) => id === partId);
  const sheet = part ? leadSheet(chosen, part) : null;
  if (!sheet) return null;
  const pickUp = sheet.bars.some((bar) => bar.pickUp);
  return {
    sheet,
    xml: musicXml(sheet),
    bars: sheet.bars.filter((bar) => !bar.pickUp).length,
    repeats: sheet.bars.filter(({ plays }) => plays > 0).length,
    pickUp,
  };
}
