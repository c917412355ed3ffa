import { MOST_LAYERS, type Layer, type Part } from './schema';

/** Instruments that double a part: each plays all that the part plays, in its own octave, at a share of its level. */

/** How a further instrument comes in: as it is written, behind the part's own. */
export const NEW_LAYER: Omit<Layer, 'instrument'> = { octave: 0, level: 70 };

type Layered = Pick<Part, 'layers'>;

/** A list that says nothing where it is empty. */
const listed = (layers: readonly Layer[]): Layered => ({ layers: layers.length > 0 ? layers : undefined });

export const canLayer = ({ layers = [] }: Layered): boolean => layers.length < MOST_LAYERS;

/** A part's layers with one more; the same where it has as many as it may have. */
export const withLayer = (part: Layered, instrument: string): Layered =>
  canLayer(part) ? listed([...(part.layers ?? []), { ...NEW_LAYER, instrument }]) : { layers: part.layers };

export const withLayerChanged = ({ layers = [] }: Layered, index: number, change: Partial<Layer>): Layered =>
  listed(layers.map((layer, place) => (place === index ? { ...layer, ...change } : layer)));

export const withoutLayer = ({ layers = [] }: Layered, index: number): Layered =>
  listed(layers.filter((_, place) => place !== index));
