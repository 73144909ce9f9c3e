/** A number that is handed in says its unit, by its name or in the docstring. An ESLint rule for functions that are given out. */
const UNITS =
  /(Cents|Hz|Ms|Min|Minutes|S|Days?|Hours?|Mm|N|C|Db|Deg|Turns?|Share|Ratio|Variance|Semitones|Samples|Percent|Sigma|Sd|Rate|Bytes|Index|Count)$|^(cents|hz|ms|minutes|hours|days|mm|newton|degrees|turns|share|ratio|variance|semitones|samples|sigma|sd|rate|s)$/;
/** Numbers without one. */
const BARE =
  /^(n|m|k|i|j|p|x|y|c|b|index|at|count|counted|wanted|of|most|least|low|high|seed|digits|places?|seq|total|states|fret|string|strings|midi|octave|level|order|freedom|round|rounds|version|share|.*Count|inharmonicity|stiffness|chance|confidence|gain|half|value|size|serial|note|note.*|number|width|length|from|to|start|end|bins?|until|begin|after|before|hands|pairs?|trials)$/;

export default {
  meta: { type: 'suggestion', schema: [] },
  create: (context) => ({
    'ExportNamedDeclaration :matches(FunctionDeclaration, VariableDeclarator > ArrowFunctionExpression)'(node) {
      const given = node.type === 'FunctionDeclaration' ? node.parent : node.parent.parent.parent;
      if (given.type !== 'ExportNamedDeclaration') return;
      const told = context.sourceCode.getCommentsBefore(given).at(-1)?.value ?? '';
      for (const param of node.params) {
        const id = param.type === 'AssignmentPattern' ? param.left : param;
        const isNumber = id.typeAnnotation?.typeAnnotation.type === 'TSNumberKeyword';
        if (!isNumber || UNITS.test(id.name) || BARE.test(id.name) || new RegExp(`\\b${id.name}\\b`).test(told))
          continue;
        context.report({ node: id, message: `In which unit is ${id.name}? Its name or the docstring says so.` });
      }
    },
  }),
};
