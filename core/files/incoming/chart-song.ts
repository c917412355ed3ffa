import { freeName, nameOfKind } from '../../song/edit';
import { LIMITS, shortened } from '../../song/limits';
import { HARMONY, type Ground, type Occurrence, type Score, type Section, type Take } from '../../song/schema';
import { withChoice } from '../../song/section';
import type { Style } from '../../song/style';
import { chordsTake } from '../../song/take';
import { newSection } from '../../styles/band';
import { styleIn } from '../../styles/styles';
import { barTicks, metreName } from '../../theory/metre';
import type { Chart } from './chart';
import type { Imported } from './imported-song';
import { kindOf } from './section-kind';

/** A chord chart as sections of a song: their chords, and nothing else yet. */

/** The ground of a song that begins with a chart: what the chart says, and what the style has besides. */
export const groundOfChart = ({ key, tempo, metre }: Chart, style: Style): Ground => ({
  tonic: key.tonic,
  scale: key.scale,
  tempo: tempo ?? style.tempo.usual,
  metre,
  swing: style.swing,
  style: style.id,
});

/** Why a chart does not go into a score, in plain words and with what to do, or null. */
export function chartProblem(into: Pick<Score, 'sections' | 'order'>, chart: Chart): string | null {
  const sections = LIMITS.sections - into.sections.length;
  const places = LIMITS.places - into.order.length;
  if (chart.sections.length <= sections && chart.order.length <= places) return null;
  return (
    `A song holds up to ${LIMITS.sections} sections in ${LIMITS.places} places: there is room for ${sections} in ` +
    `${places}, and ${chart.sections.length} in ${chart.order.length} would come. Make it a song of its own.`
  );
}

/** Only what differs from the song. */
function ownGround({ key, tempo, metre }: Chart, ground: Ground): Section['ground'] {
  const sameKey = key.tonic === ground.tonic && key.scale === ground.scale;
  return {
    ...(sameKey ? {} : { tonic: key.tonic, scale: key.scale }),
    ...(tempo === null || Math.abs(tempo - ground.tempo) < 0.01 ? {} : { tempo }),
    ...(metreName(metre) === metreName(ground.metre) ? {} : { metre }),
  };
}

/**
 * Brings a chart into a score as sections with its chords, at the end of the running order.
 *
 * @param into   for a song of its own, one without sections
 * @param newId  makes ids
 */
export function chartInto(into: Score, chart: Chart, newId: (kind: string) => string): Imported {
  const style = styleIn(into, into.ground.style);
  const takes: Take[] = [];
  let score = into;
  const made = chart.sections.map(({ name, bars, chords }) => {
    const kind = kindOf(name);
    const id = newId('section');
    const section = newSection(style, kind, id, freeName(score, name || nameOfKind(kind)));
    const place = { id: newId('take'), section: id, length: bars * barTicks(chart.metre) };
    const take = chordsTake(place, chords, { how: 'imported', from: shortened(chart.title || 'a chord chart', 200) });
    takes.push(take);
    const chosen = withChoice({ ...section, bars, ground: ownGround(chart, into.ground) }, HARMONY, take.id);
    score = { ...score, sections: [...score.sections, chosen] };
    return chosen;
  });
  const order = chart.order.flatMap((index): Occurrence[] => {
    const section = made[index];
    return section ? [{ id: newId('occurrence'), section: section.id }] : [];
  });
  return { score: { ...score, order: [...score.order, ...order] }, takes, occurrence: order[0]?.id ?? '' };
}
