import { barMovers } from '../lean/brief-movers';
import { leanStages, leansNow, type LeanStage } from '../lean/course';
import { leant } from '../lean/moving';
import {
  ASPECTS,
  type Asking,
  type Brief,
  type Hold,
  type Lean,
  type PartTake,
  type Role,
  type Take,
} from '../song/schema';
import { looseTake } from '../song/take';
import { range } from '../theory/units';
import type { PartContext, PartDraft } from './context';

/** What of a request matters here. */
interface Asked {
  readonly asking: Asking;
  readonly seed: number;
  readonly models?: readonly Take[];
}

/** What stands of a line before the bars that lean further are drafted: a take by a name that no song has. */
const SO_FAR = 'what stands so far';

/** A brief as it leans in a stage. */
const leantBrief = (brief: Brief, role: Role, leans: readonly Lean[], { shares }: LeanStage): Brief =>
  leans.reduce((now, { moves }, index) => leant(now, moves, shares[index] ?? 0, barMovers(role)), brief);

/** A request that keeps all bars but some as they stand. */
function keepingOthers<Request extends Asked>(request: Request, line: PartTake, bars: readonly number[]): Request {
  const { asking, models = [] } = request;
  const others = range(asking.bars).filter((bar) => !bars.includes(bar));
  const hold: Hold = { take: line.id, aspects: [...ASPECTS], bars: others, notes: [] };
  // What the writer holds comes first.
  return { ...request, asking: { ...asking, holds: [...(asking.holds ?? []), hold] }, models: [...models, line] };
}

/**
 * Drafts a part whose brief leans by itself: the whole of it as its first bar leans, then the bars of each further stage
 * anew, with all others as they stand, so that it goes on from bar to bar as one line.
 *
 * @param attempt  tells what chance decides in one draw from what it decides in another
 * @param draw     drafts by a brief, from streams that begin afresh
 * @returns where a stage cannot be met, the line as it stood before it; where the first cannot, why
 */
export function draftLeaning<Request extends Asked>(
  request: Request,
  context: PartContext,
  attempt: number,
  draw: (request: Request, context: PartContext) => PartDraft,
): PartDraft {
  const { leans } = context.brief;
  if (!leansNow(leans)) return draw(request, context);
  const stages = leanStages(leans, 0, context.bars, { seed: request.seed, attempt });
  return stages.reduce<PartDraft>(
    (line, stage, index) => {
      if (!line.ok) return line;
      const leaning = { ...context, brief: leantBrief(context.brief, context.role, leans, stage) };
      if (index === 0) return draw(request, leaning);
      const place = { id: SO_FAR, section: SO_FAR, length: context.length };
      const stands = looseTake(place, SO_FAR, line.notes, { how: 'edited' });
      const next = draw(keepingOthers(request, stands, stage.bars), leaning);
      return next.ok ? next : line;
    },
    { ok: true, notes: [] },
  );
}
