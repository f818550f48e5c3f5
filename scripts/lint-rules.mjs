// Rules of our own: what the core is given as arguments it does not take from anywhere else.
const MESSAGES = {
  clock: 'The core takes the clock as an argument.',
  randomness: 'The core takes randomness as an argument.',
};

const isCallOf = (node, object, property) =>
  node.callee.type === 'MemberExpression' && node.callee.object.name === object && node.callee.property.name === property;

export default {
  meta: { name: 'wise-margin' },
  rules: {
    'pure-core': {
      meta: { type: 'problem', messages: MESSAGES },
      create: (context) => ({
        NewExpression(node) {
          if (node.callee.name === 'Date') context.report({ node, messageId: 'clock' });
        },
        CallExpression(node) {
          if (isCallOf(node, 'Date', 'now')) context.report({ node, messageId: 'clock' });
          if (isCallOf(node, 'Math', 'random')) context.report({ node, messageId: 'randomness' });
        },
      }),
    },
  },
};
