import { MagicString, babelParse, type SFCTemplateCompileOptions } from 'vue/compiler-sfc'

type Transform = NonNullable<
  NonNullable<SFCTemplateCompileOptions['compilerOptions']>['nodeTransforms']
>[number]
type Node = Parameters<Transform>[0]
/** What a node is, as the compiler numbers it. */
const is = {
  root: 0,
  element: 1,
  text: 2,
  expression: 4,
  interpolation: 5,
  attribute: 6,
  directive: 7,
} as const
type Element = Extract<Node, { type: typeof is.element }>
type Child = Element['children'][number]
type Text = Extract<Child, { type: typeof is.text }>
type Interpolation = Extract<Child, { type: typeof is.interpolation }>
type Statement = ReturnType<typeof babelParse>['program']['body'][number]
type Expression = Extract<Statement, { type: 'ExpressionStatement' }>['expression']

/** Attributes that people read or hear, of elements and of our components. */
const spokenAttributes = new Set(
  'alt title label placeholder caption action verb unit list-name aria-label aria-description aria-roledescription aria-valuetext'.split(
    ' ',
  ),
)
const hasWords = (text: string) => /\p{L}/u.test(text)

/**
 * Takes every text of a template through `$say`: runs of text and values become one sentence with places for the values, so that
 * a language can put them in its own order. Components are written as if there were one language.
 * @param collect hears each text as it will be asked for
 */
export function saidTemplates(collect: (text: string) => void = () => {}): Transform {
  const said = (text: string, values: readonly string[] = []) => {
    collect(text)
    return `$say(${JSON.stringify(text)}${values.length ? `, [${values.map((value) => `(${value})`).join(', ')}]` : ''})`
  }

  /** A sentence out of pieces: texts as they are, values as places. Blanks around it are layout. */
  function sentence(pieces: readonly ({ text: string } | { value: string })[]): {
    before: string
    call: string
    after: string
  } {
    const values: string[] = []
    const text = pieces
      .map((piece) => ('text' in piece ? piece.text : `{${values.push(piece.value) - 1}}`))
      .join('')
    const [, before = '', words = '', after = ''] = /^(\s*)(.*?)(\s*)$/s.exec(text) ?? []
    return { before, call: said(words, values), after }
  }

  /** An expression with the texts that it can come to taken through `$say`: of both ends of a choice, and of templates. */
  function spokenExpression(source: string): string {
    if (!/['"`]/.test(source)) return source
    const text = new MagicString(`(${source})`)
    const { program } = babelParse(`(${source})`, { plugins: ['typescript'] })
    const statement = program.body[0]
    if (statement?.type === 'ExpressionStatement') visit(statement.expression)
    return text.toString().slice(1, -1)

    function visit(node: Expression): void {
      const put = (words: string) => text.overwrite(node.start ?? 0, node.end ?? 0, words)
      if (node.type === 'ConditionalExpression') [node.consequent, node.alternate].forEach(visit)
      else if (node.type === 'LogicalExpression') {
        if (node.operator !== '&&') visit(node.left)
        visit(node.right)
      } else if (node.type === 'ParenthesizedExpression' || node.type === 'TSAsExpression')
        visit(node.expression)
      else if (node.type === 'StringLiteral' && hasWords(node.value)) put(said(node.value))
      else if (
        node.type === 'TemplateLiteral' &&
        node.quasis.some(({ value }) => hasWords(value.cooked ?? ''))
      ) {
        const pieces = node.quasis.flatMap(({ value }, i) => {
          const inner = node.expressions[i]
          const words = { text: value.cooked ?? '' }
          return inner
            ? [words, { value: spokenExpression(source.slice((inner.start ?? 0) - 1, (inner.end ?? 0) - 1)) }]
            : [words]
        })
        const { before, call, after } = sentence(pieces)
        put(
          [before && JSON.stringify(before), call, after && JSON.stringify(after)]
            .filter(Boolean)
            .join(' + '),
        )
      }
    }
  }

  const expression = (content: string, loc: Node['loc']) =>
    ({ type: is.expression, content, isStatic: false, constType: 0, loc }) as Interpolation['content']

  /** One run of texts and values, with its words taken through `$say`. */
  function spokenRun(run: readonly (Text | Interpolation)[]): Child[] {
    const [first] = run
    if (!first) return []
    const content = (child: Interpolation) =>
      'content' in child.content ? spokenExpression(String(child.content.content)) : ''
    if (!run.some((child) => child.type === is.text && hasWords(child.content)))
      return run.map((child) =>
        child.type === is.text ? child : { ...child, content: expression(content(child), child.loc) },
      )
    const { before, call, after } = sentence(
      run.map((child) => (child.type === is.text ? { text: child.content } : { value: content(child) })),
    )
    const blank = (text: string): Child[] => (text ? [{ type: is.text, content: text, loc: first.loc }] : [])
    return [
      ...blank(before),
      { type: is.interpolation, content: expression(call, first.loc), loc: first.loc },
      ...blank(after),
    ]
  }

  function attribute(prop: Element['props'][number]): Element['props'][number] {
    const { loc } = prop
    if (prop.type === is.attribute) {
      const { name, value } = prop
      if (!value || !spokenAttributes.has(name) || !hasWords(value.content)) return prop
      const arg = { type: is.expression, content: name, isStatic: true, constType: 3 as const, loc }
      return {
        type: is.directive,
        name: 'bind',
        rawName: `:${name}`,
        arg,
        exp: expression(said(value.content), loc),
        modifiers: [],
        loc,
      }
    }
    const isSpoken =
      prop.name === 'bind' &&
      prop.arg?.type === is.expression &&
      prop.exp?.type === is.expression &&
      spokenAttributes.has(prop.arg.content)
    return isSpoken && prop.exp?.type === is.expression
      ? { ...prop, exp: expression(spokenExpression(prop.exp.content), loc) }
      : prop
  }

  function withSpokenChildren(node: { children: Child[] }): void {
    const children: Child[] = []
    let run: (Text | Interpolation)[] = []
    const end = () => {
      children.push(...spokenRun(run))
      run = []
    }
    for (const child of node.children)
      if (child.type === is.text || child.type === is.interpolation) run.push(child)
      else {
        end()
        children.push(child)
        if (child.type !== is.element) continue
        child.props = child.props.map(attribute)
        withSpokenChildren(child)
      }
    end()
    node.children = children
  }

  // All of it at the root: what comes after knows the expressions that it finds there.
  return (root) => {
    if (root.type === is.root) withSpokenChildren(root)
  }
}
