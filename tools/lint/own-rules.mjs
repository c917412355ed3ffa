// Lint rules of our own, about where a song is changed.

/** Reports what a selector finds. */
const forbid = (selector, message) => ({
  meta: { type: 'problem', schema: [] },
  create: (context) => ({ [selector]: (node) => context.report({ node, message }) }),
});

export default {
  meta: { name: 'fendro' },
  rules: {
    'takes-made-in-one-place': forbid(
      "Property[key.name='origin'][value.type='ObjectExpression']",
      'takes are made in core/song/take.ts, so that each says what it came from and what it lies over',
    ),
    'choices-read-in-one-place': forbid(
      "MemberExpression[object.name='section'][property.name=/^(harmony|chosen)$/]",
      'what a section has chosen is read and changed through core/song/section.ts',
    ),
  },
};
