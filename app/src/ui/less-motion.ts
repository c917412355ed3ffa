/** Whether the system asks for less motion. */
export const wantsLessMotion = (): boolean =>
  typeof matchMedia === 'function' && matchMedia('(prefers-reduced-motion: reduce)').matches;
