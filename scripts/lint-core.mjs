// The linter's rule of our own: a date without arguments reads the clock, of which the core must not know.

const noClock = {
  create: (context) => ({
    NewExpression(node) {
      if (node.callee.type === 'Identifier' && node.callee.name === 'Date' && node.arguments.length === 0)
        context.report({ node, message: 'The core reads no clock.' });
    },
  }),
};

export default { meta: { name: 'core' }, rules: { 'no-clock': noClock } };
