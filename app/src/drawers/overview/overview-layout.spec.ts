import * as fc from 'fast-check';
import { layOut } from '@fendro/core/song/resolve';
import { glanceOf } from '@fendro/core/sounding/glance';
import { musicOf } from '@fendro/core/testing/sounding';
import { SMALL } from '../../testing/view';
import { cellAt, moved, rowHeight, startOf, tellCell, type OverviewRow } from './overview-layout';

const music = musicOf(SMALL.score, SMALL.takes);
const placed = layOut(SMALL.score);
const rows: readonly OverviewRow[] = SMALL.score.parts.map((part) => ({ part, places: glanceOf(music, placed, part) }));
const [{ places }] = rows as [OverviewRow];
const bars = places.flatMap(({ bars: own }) => own).length;

describe('the cells of the whole song', () => {
  it('are found by the tick that they begin at, and by any other in them', () => {
    fc.assert(
      fc.property(fc.nat(bars - 1), fc.nat(1919), (steps, inBar) => {
        const cell = moved(rows, { row: 0, place: 0, bar: 0 }, steps, 0);
        expect(cellAt(places, startOf(places, cell) + inBar, 0)).toEqual(cell);
      }),
    );
    expect(cellAt(places, -1, 0)).toBeNull();
  });

  it('are gone over there and back, and never beyond the song', () => {
    fc.assert(
      fc.property(fc.integer({ min: -99, max: 99 }), fc.integer({ min: -99, max: 99 }), (by, down) => {
        const cell = moved(rows, { row: 0, place: 1, bar: 0 }, by, down);
        expect(rows[cell.row]!.places[cell.place]!.bars[cell.bar]).toBeDefined();
        const at = startOf(places, { row: 0, place: 1, bar: 0 }) / 1920;
        expect(startOf(places, cell) / 1920).toBe(Math.max(0, Math.min(bars - 1, at + by)));
      }),
    );
  });

  it('are told in words', () => {
    const cell = { row: 0, place: 0, bar: 1 };
    expect(tellCell(rows, cell)).toMatch(/^\S.*, bar 2: Melody, \d+ notes?, (very )?(soft|middling|loud)$/);
    expect(tellCell(rows, { ...cell, row: 99 })).toBe('');
  });

  it('have rows that fit while they can be read', () => {
    expect([rowHeight(230, 6), rowHeight(230, 24), rowHeight(2000, 6), rowHeight(100, 0)]).toEqual([30, 14, 30, 30]);
  });
});
