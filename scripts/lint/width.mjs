// The formatter leaves comments alone: this tells those that are too wide to be read beside the code.
const comments = {
  meta: { type: 'layout', schema: [{ type: 'object', properties: { most: { type: 'integer' } } }] },
  create: (context) => ({
    Program() {
      const { most } = context.options[0]
      const { lines } = context.sourceCode
      for (const { loc } of context.sourceCode.getAllComments())
        for (let line = loc.start.line; line <= loc.end.line; line++)
          if (lines[line - 1].length > most)
            context.report({ loc: { line, column: most }, message: `A comment ends beyond column ${most}.` })
    },
  }),
}

export default { meta: { name: 'width' }, rules: { comments } }
