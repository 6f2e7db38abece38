import { readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { createSSRApp } from 'vue'
import { compileTemplate, parse } from 'vue/compiler-sfc'
import { renderToString } from 'vue/server-renderer'
import { afterEach, describe, expect, it } from 'vitest'
import { say, speak } from '../../src/app/words/say'
import MainsChoice from '../../src/app/components/MainsChoice.vue'
import { saidTemplates } from './said-templates'

const source = join(import.meta.dirname, '..', '..', 'src')
const components = readdirSync(source, { recursive: true, encoding: 'utf8' }).filter((name) =>
  name.endsWith('.vue'),
)

/** The texts that a template asks for, and the texts that are left as they stand. */
function textsOf(template: string) {
  const asked: string[] = []
  const { ast, code, errors } = compileTemplate({
    source: template,
    filename: 'template.vue',
    id: 'template',
    compilerOptions: {
      expressionPlugins: ['typescript'],
      nodeTransforms: [saidTemplates((text) => asked.push(text))],
    },
  })
  expect(errors).toEqual([])
  const left: string[] = []
  const visit = (node: NonNullable<typeof ast> | NonNullable<typeof ast>['children'][number]) => {
    if (node.type === 2 && /\p{L}/u.test(node.content)) left.push(node.content)
    if ('children' in node)
      for (const child of node.children) if (typeof child === 'object') visit(child as never)
    if ('branches' in node) node.branches.forEach((branch) => visit(branch))
  }
  if (ast) visit(ast)
  return { asked, left, code }
}

/** What a template shows, in a language. */
async function shown(template: string, values: Record<string, unknown>, language: Record<string, string>) {
  const { code } = textsOf(template)
  const vue = await import('vue')
  const body = code
    .replace(
      /import \{(.*?)\} from "vue"/gs,
      (_, names: string) => `const {${names.replaceAll(' as ', ': ')}} = vue`,
    )
    .replace('export function render', 'return function render')
  const render = new Function('vue', body)(vue) as () => unknown
  const app = createSSRApp({ render: render, data: () => values })
  app.config.globalProperties.$say = say
  speak(new Map(Object.entries(language)))
  return (await renderToString(app)).replaceAll(/<!--.*?-->/g, '')
}

afterEach(() => speak(null))

describe('texts of templates', () => {
  it('are one sentence with places for its values, in the order that a language likes', async () => {
    const template = '<p>{{ count }} of {{ all }} clips</p>'
    expect(textsOf(template).asked).toEqual(['{0} of {1} clips'])
    const values = { count: 3, all: 8 }
    expect(await shown(template, values, {})).toBe('<p>3 of 8 clips</p>')
    expect(await shown(template, values, { '{0} of {1} clips': 'von {1} Clips {0}' })).toBe(
      '<p>von 8 Clips 3</p>',
    )
  })

  it('are those of attributes too, bound or not, and of both ends of a choice', async () => {
    const template =
      '<i title="The foundry" class="tower" :aria-label="`${bells} bells`" :data-of="`bell`">{{ open ? "open" : `shut for ${days} d` }}</i>'
    expect(textsOf(template).asked).toEqual(['The foundry', '{0} bells', 'open', 'shut for {0} d'])
    const values = { bells: 4, open: false, days: 2 }
    const words = {
      'The foundry': 'Die Gießerei',
      '{0} bells': '{0} Glocken',
      'shut for {0} d': 'noch {0} Tage zu',
    }
    expect(await shown(template, values, words)).toBe(
      '<i title="Die Gießerei" class="tower" aria-label="4 Glocken" data-of="bell">noch 2 Tage zu</i>',
    )
  })

  it('leave alone what is compared, and blanks and marks', () => {
    expect(
      textsOf('<p v-if="grade === \'heavy\'">{{ a }} · {{ grade === "light" ? 1 : 2 }}</p>').asked,
    ).toEqual([])
  })

  it('know the names of loops and slots', async () => {
    const template =
      '<ul><template v-for="bell in bells"><li v-if="bell">bell {{ bell }} rings</li></template></ul>'
    expect(await shown(template, { bells: [1, 2] }, { 'bell {0} rings': 'Glocke {0} läutet' })).toBe(
      '<ul><li>Glocke 1 läutet</li><li>Glocke 2 läutet</li></ul>',
    )
  })
})

describe('the components', () => {
  it.each(components)('%s shows no text past the one place', (name) => {
    const { template } = parse(readFileSync(join(source, name), 'utf8')).descriptor
    expect(textsOf(template?.content ?? '').left).toEqual([])
  })

  it('are built that way', async () => {
    const app = createSSRApp(MainsChoice, { value: null, name: 'mains' })
    app.config.globalProperties.$say = say
    speak(new Map([['not known', 'nicht bekannt']]))
    expect(await renderToString(app)).toContain('nicht bekannt')
  })
})
