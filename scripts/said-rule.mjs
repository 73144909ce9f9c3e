/**
 * A view makes no sentence with a figure and its unit: what is claimed is worded in the core, where it is held against the truth. A bare
 * figure with its unit, a field's label and an option are the view's. An ESLint rule.
 */
const UNIT = /(^|[^a-z])(cents?|¢|Hz|°C|mm|min|days?|beats|rounds|semitones|%)(?![a-z])/i;
const WORD = /[a-z]{3,}/i;
const FIELDS = new Set(['label', 'option', 'legend', 'input', 'select']);

/** A text of which '{}' stands for what is filled in says more than a figure and its unit. */
const claims = (text) =>
  text.includes('{}') && UNIT.test(text) && WORD.test(text.replaceAll('{}', '').replace(new RegExp(UNIT, 'gi'), ''));

const nameOf = (node) => node.openingElement?.name?.name;
const message = 'A sentence with a figure is worded in the core (core/says, or its room’s words).';

export default {
  meta: { type: 'suggestion', schema: [] },
  create: (context) => ({
    TemplateLiteral(node) {
      const ancestors = context.sourceCode.getAncestors(node);
      const attribute = ancestors.findLast((a) => a.type === 'JSXAttribute');
      if (/^(className|d|transform|style|viewBox|points)$/.test(attribute?.name.name ?? '')) return;
      // What a chart shows beside a point, and what a field is called.
      if (ancestors.some((a) => a.type === 'Property' && a.key.name === 'hovertemplate')) return;
      if (attribute && FIELDS.has(attribute.parent.name.name)) return;
      if (claims(node.quasis.map((q) => q.value.cooked).join('{}'))) context.report({ node, message });
    },
    JSXElement(node) {
      if (FIELDS.has(nameOf(node))) return;
      const text = node.children
        .map((c) =>
          c.type === 'JSXText' ? c.value : c.type === 'JSXExpressionContainer' && isFilled(c.expression) ? '{}' : ' ',
        )
        .join('');
      if (claims(text)) context.report({ node, message });
    },
  }),
};
const isFilled = ({ type }) =>
  !['JSXEmptyExpression', 'Literal', 'LogicalExpression', 'ConditionalExpression'].includes(type);
