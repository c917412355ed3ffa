/**
 * A name that knows what it names. Plain text fits in, as it comes from files and fields, but the id of a part is never
 * taken for that of a take.
 */
type Id<Kind extends string> = string & { readonly names?: Kind };

export type PartId = Id<'part'>;
export type SectionId = Id<'section'>;
export type OccurrenceId = Id<'occurrence'>;
export type TakeId = Id<'take'>;
export type MotifId = Id<'motif'>;

/** What a take belongs to: a part, or the chord line. */
export type LineId = PartId;
export const HARMONY: LineId = 'harmony';
