import type { Patch } from 'immer'
import { describe, expect, it, vi } from 'vitest'
import { watch } from 'vue'
import { useDocument } from './document'

interface Book {
  title: string
  pages: number[]
}

function opened() {
  const saved: { doc: Book; patches: readonly Patch[] }[] = []
  const history = useDocument<Book>({ save: async (doc, patches) => void saved.push({ doc, patches }) })
  history.show({ title: 'Tally', pages: [1] })
  return { history, saved }
}

describe('the history of a document', () => {
  it('undoes and redoes each edit, and says which is next', () => {
    const { history } = opened()
    history.edit('write a page', (book) => void book.pages.push(2))
    history.edit('rename', (book) => void (book.title = 'Yard'))
    expect([history.undoLabel.value, history.redoLabel.value]).toEqual(['rename', null])
    expect(history.undo()).toBe('rename')
    expect(history.doc.value).toEqual({ title: 'Tally', pages: [1, 2] })
    expect([history.undoLabel.value, history.redoLabel.value]).toEqual(['write a page', 'rename'])
    expect(history.redo()).toBe('rename')
    expect(history.doc.value?.title).toBe('Yard')
    history.undo()
    history.undo()
    expect(history.undo()).toBeNull()
    expect(history.doc.value).toEqual({ title: 'Tally', pages: [1] })
  })

  it('forgets what was undone once something else is done', () => {
    const { history } = opened()
    history.edit('a', (book) => void book.pages.push(2))
    history.undo()
    history.edit('b', (book) => void book.pages.push(3))
    expect(history.redo()).toBeNull()
    expect(history.doc.value?.pages).toEqual([1, 3])
  })

  it('takes steps of one kind that follow each other as one', () => {
    const { history } = opened()
    for (const page of [2, 3, 4]) history.edit('write', (book) => void book.pages.push(page), 'writing')
    history.edit('rename', (book) => void (book.title = 'Yard'))
    history.edit('write', (book) => void book.pages.push(5), 'writing')
    history.undo()
    expect(history.doc.value?.pages).toEqual([1, 2, 3, 4])
    history.undo()
    history.undo()
    expect(history.doc.value).toEqual({ title: 'Tally', pages: [1] })
    history.redo()
    expect(history.doc.value?.pages).toEqual([1, 2, 3, 4])
  })

  it('keeps no step where nothing changed, and none without a document', () => {
    const { history, saved } = opened()
    history.edit('nothing', (book) => void (book.title = 'Tally'))
    expect(history.undoLabel.value).toBeNull()
    history.show(null)
    history.edit('nowhere', (book) => void (book.title = 'Yard'))
    expect(history.doc.value).toBeNull()
    expect(saved).toEqual([])
  })

  it('replaces the document rather than changing it, so that others may hold on to it', () => {
    const { history } = opened()
    const before = history.doc.value!
    history.edit('write', (book) => void book.pages.push(2))
    expect(before.pages).toEqual([1])
    expect(history.doc.value).not.toBe(before)
  })

  it('writes every step in order, undone ones too, and says when all is written', async () => {
    const order: string[] = []
    const waiting: (() => void)[] = []
    const history = useDocument<Book>({
      save: (doc) => new Promise<void>((done) => waiting.push(() => (order.push(doc.title), done()))),
    })
    history.show({ title: 'Tally', pages: [] })
    history.edit('a', (book) => void (book.title = 'A'))
    history.edit('b', (book) => void (book.title = 'B'))
    history.undo()
    expect(history.saved.value).toBe(false)
    for (let i = 0; i < 3; i++) {
      await Promise.resolve()
      while (waiting.length === 0) await Promise.resolve()
      waiting.shift()!()
    }
    await history.settled()
    expect(order).toEqual(['A', 'B', 'A'])
    expect(history.saved.value).toBe(true)
  })

  it('goes on after a write that failed, says why, and writes what is owed along with the next', async () => {
    const written: { title: string; paths: string[] }[] = []
    let full = true
    const history = useDocument<Book>({
      save: async (doc, patches) => {
        if (full) throw new Error('The disk is full.')
        written.push({ title: doc.title, paths: patches.map((p) => p.path.join('.')) })
      },
    })
    history.show({ title: 'Tally', pages: [] })
    history.edit('rename', (book) => void (book.title = 'Yard'))
    history.edit('write', (book) => void book.pages.push(1))
    await history.settled()
    expect([history.trouble.value, history.saved.value, written]).toEqual(['The disk is full.', false, []])
    full = false
    history.edit('write', (book) => void book.pages.push(2))
    await history.settled()
    expect([history.trouble.value, history.saved.value]).toEqual([null, true])
    expect(written).toEqual([{ title: 'Yard', paths: ['title', 'pages.0', 'pages.1'] }])
  })

  it('tries again when asked, and has nothing to try where nothing is owed', async () => {
    let tries = 0
    const history = useDocument<Book>({
      save: async () => {
        if (++tries === 1) throw new Error('The disk is full.')
      },
    })
    history.show({ title: 'Tally', pages: [] })
    history.retry()
    expect(tries).toBe(0)
    history.edit('write', (book) => void book.pages.push(1))
    await vi.waitFor(() => expect(history.trouble.value).not.toBeNull())
    history.retry()
    await history.settled()
    expect([tries, history.trouble.value]).toEqual([2, null])
    history.retry()
    await history.settled()
    expect(tries).toBe(2)
  })

  it('begins anew with another document', () => {
    const { history } = opened()
    history.edit('a', (book) => void book.pages.push(2))
    history.show({ title: 'Another', pages: [] })
    expect([history.undo(), history.redo()]).toEqual([null, null])
    expect(history.doc.value?.title).toBe('Another')
  })
})

describe('what could not be written', () => {
  /** A history whose storage fails while it is told to. */
  function failing() {
    const state = { fails: true, saved: [] as string[] }
    const history = useDocument<Book>({
      save: async (doc) => {
        if (state.fails) throw new Error('the disk is full\nquota')
        state.saved.push(`${doc.title} ${doc.pages.join('')}`)
      },
    })
    history.show({ title: 'Tally', pages: [1] })
    return { history, state }
  }

  it('stays owed when another document is opened, is told, and is written once it can be', async () => {
    const { history, state } = failing()
    history.edit('write', (book) => void book.pages.push(2))
    await history.settled()
    expect(history.trouble.value).toBe('the disk is full')
    history.show({ title: 'Yard', pages: [9] })
    expect(history.trouble.value).toBeNull()
    expect(history.unsaved.value).toEqual([
      { doc: { title: 'Tally', pages: [1, 2] }, trouble: 'the disk is full' },
    ])
    expect(history.saved.value).toBe(false)
    state.fails = false
    await history.settled()
    expect(state.saved).toEqual(['Tally 12'])
    expect(history.unsaved.value).toEqual([])
    expect(history.saved.value).toBe(true)
  })

  it('is opened again as it was left', async () => {
    const { history, state } = failing()
    history.edit('write', (book) => void book.pages.push(2))
    await history.settled()
    history.show({ title: 'Yard', pages: [] })
    expect(history.resume(({ title }) => title === 'Yard')).toBe(false)
    expect(history.resume(({ title }) => title === 'Tally')).toBe(true)
    expect(history.doc.value).toEqual({ title: 'Tally', pages: [1, 2] })
    expect([history.trouble.value, history.unsaved.value]).toEqual(['the disk is full', []])
    state.fails = false
    history.edit('write', (book) => void book.pages.push(3))
    await history.settled()
    expect(state.saved).toEqual(['Tally 123'])
  })

  it('of an edit made while another document is being opened belongs to its own document', async () => {
    const { history, state } = failing()
    history.edit('write', (book) => void book.pages.push(2))
    history.show({ title: 'Yard', pages: [] })
    history.edit('write', (book) => void book.pages.push(7))
    await history.settled()
    expect(history.unsaved.value.map(({ doc }) => doc.title)).toEqual(['Tally'])
    state.fails = false
    await history.settled()
    expect(state.saved.sort()).toEqual(['Tally 12', 'Yard 7'])
  })

  it('is forgotten with its document when that is deleted', async () => {
    const { history } = failing()
    history.edit('write', (book) => void book.pages.push(2))
    await history.settled()
    history.show(null)
    history.forget(({ title }) => title === 'Tally')
    expect(history.unsaved.value).toEqual([])
  })
})

describe('what is found out', () => {
  it('is kept and is no step of the editor’s', async () => {
    const { history, saved } = opened()
    history.edit('write', (book) => void book.pages.push(2))
    history.learn((book) => void (book.title = 'Tally, measured'))
    history.learn(() => {})
    await history.settled()
    expect(saved).toHaveLength(2)
    history.undo()
    expect(history.doc.value).toEqual({ title: 'Tally, measured', pages: [1] })
    expect(history.undo()).toBeNull()
  })
})

describe('what is unsaved', () => {
  it('is told only once the document that is opened is the open one: who may write is settled by both', () => {
    const { history } = opened()
    const told: (string | undefined)[] = []
    watch(history.unsaved, () => told.push(history.doc.value?.title), { flush: 'sync' })
    history.show({ title: 'Another', pages: [] })
    expect(told.filter((title) => title !== 'Another')).toEqual([])
  })
})

describe('a gesture', () => {
  it('is shown while it goes on, and is one step and one write when it is committed', async () => {
    const { history, saved } = opened()
    for (let i = 0; i < 200; i++) history.preview('drag', (book) => void (book.title = `at ${i}`))
    expect([history.doc.value?.title, history.lines.value.length]).toEqual(['at 199', 0])
    await history.settled()
    expect(saved).toEqual([])
    history.commit()
    await history.settled()
    expect([saved.length, history.lines.value.length]).toEqual([1, 1])
    history.undo()
    expect(history.doc.value).toEqual({ title: 'Tally', pages: [1] })
  })

  it('shows each time what it makes of the document as it was when it began', () => {
    const { history } = opened()
    history.preview('drag', (book) => void book.pages.push(2))
    history.preview('drag', (book) => void book.pages.push(3))
    history.commit()
    expect(history.doc.value?.pages).toEqual([1, 3])
  })

  it('that is left leaves everything as it was, what could be done again too', async () => {
    const { history, saved } = opened()
    history.edit('write', (book) => void book.pages.push(2))
    history.undo()
    await history.settled()
    saved.length = 0
    const before = history.doc.value
    history.preview('drag', (book) => void (book.title = 'Yard'))
    history.cancel()
    await history.settled()
    expect([history.doc.value, history.redoLabel.value, saved]).toEqual([before, 'write', []])
    expect(history.doc.value).toBe(before)
  })

  it('takes nothing back while it runs', () => {
    const { history } = opened()
    history.edit('write', (book) => void book.pages.push(2))
    history.preview('drag', (book) => void (book.title = 'Yard'))
    expect([history.undo(), history.goTo(0), history.docAt(0)?.title]).toEqual([null, null, 'Tally'])
    expect(history.doc.value).toEqual({ title: 'Yard', pages: [1, 2] })
  })

  it('keeps what is found out meanwhile, whether it is committed or left', () => {
    for (const end of ['commit', 'cancel'] as const) {
      const { history } = opened()
      history.preview('drag', (book) => void (book.title = 'Yard'))
      history.learn((book) => void book.pages.push(9))
      expect(history.doc.value).toEqual({ title: 'Yard', pages: [1, 9] })
      history[end]()
      expect(history.doc.value).toEqual({ title: end === 'commit' ? 'Yard' : 'Tally', pages: [1, 9] })
    }
  })

  it('is one step of its own beside whatever is done while it runs', () => {
    const { history } = opened()
    history.preview('drag', (book) => void (book.title = 'Yard'))
    history.edit('write', (book) => void book.pages.push(2))
    expect(history.lines.value.map(({ label }) => label)).toEqual(['drag', 'write'])
    history.undo()
    expect(history.doc.value).toEqual({ title: 'Yard', pages: [1] })
  })

  it('that is refused leaves the document, and says why once it is let go', () => {
    const history = useDocument<Book>({
      save: async () => {},
      change: () => ({ ok: false, error: 'The book is closed.' }),
    })
    history.show({ title: 'Tally', pages: [] })
    history.preview('drag', (book) => void (book.title = 'Yard'))
    expect([history.doc.value?.title, history.notDone.value]).toEqual(['Tally', null])
    history.commit()
    expect(history.notDone.value).toEqual({ label: 'drag', error: 'The book is closed.' })
  })
})

describe('a key that is held', () => {
  it('is one step and one write, however often it repeats', async () => {
    const { history, saved } = opened()
    history.beginHold()
    for (let page = 2; page < 50; page++) history.edit('write', (book) => void book.pages.push(page))
    expect([history.saved.value, saved.length]).toEqual([false, 0])
    history.endHold()
    await history.settled()
    expect([history.saved.value, saved.length, history.lines.value.length]).toEqual([true, 1, 1])
    history.undo()
    expect(history.doc.value?.pages).toEqual([1])
  })

  it('is another step than the same key pressed again', () => {
    const { history } = opened()
    for (const page of [2, 3]) {
      history.beginHold()
      history.edit('write', (book) => void book.pages.push(page))
      history.endHold()
    }
    expect(history.lines.value).toHaveLength(2)
  })

  it('is written before another document is opened', async () => {
    const { history, saved } = opened()
    history.beginHold()
    history.edit('write', (book) => void book.pages.push(2))
    history.show({ title: 'Another', pages: [] })
    history.edit('rename', (book) => void (book.title = 'Third'))
    await history.settled()
    expect(saved.map(({ doc }) => doc.title)).toEqual(['Tally', 'Third'])
  })
})

describe('a document that is only read', () => {
  const untouched = { title: 'Tally', pages: [1] }
  const acts = {
    edit: (history) => history.edit('write', (book) => void book.pages.push(2)),
    preview: (history) => history.preview('drag', (book) => void book.pages.push(2)),
    learn: (history) => history.learn((book) => void book.pages.push(2)),
    undo: (history) => history.undo(),
    redo: (history) => history.redo(),
    goTo: (history) => history.goTo(0),
    commit: (history) => history.commit(),
  } satisfies Record<string, (history: ReturnType<typeof opened>['history']) => unknown>

  for (const [name, act] of Object.entries(acts))
    it(`is changed by nothing: ${name}`, async () => {
      const { history, saved } = opened()
      history.edit('write', (book) => void book.pages.push(5))
      history.edit('write', (book) => void book.pages.push(6))
      history.undo()
      history.undo()
      await history.settled()
      saved.length = 0
      history.readOnly.value = true
      act(history)
      await history.settled()
      expect([history.doc.value, saved, history.redoLabel.value]).toEqual([untouched, [], 'write'])
    })

  it('leaves a gesture that runs as another tab takes the writing, and stores nothing of it', async () => {
    const { history, saved } = opened()
    history.preview('drag', (book) => void (book.title = 'Yard'))
    history.readOnly.value = true
    expect(history.doc.value).toEqual(untouched)
    history.receive([{ op: 'replace', path: ['title'], value: 'Bell' }])
    history.commit()
    await history.settled()
    expect([history.doc.value?.title, saved]).toEqual(['Bell', []])
  })
})
