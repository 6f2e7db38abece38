import { describe, expect, it } from 'vitest'
import { filesFromDrop, filesFromPicker } from './intake'

const aFile = (name: string) => new File(['x'], name)
const fileEntry = (name: string) => ({
  isDirectory: false,
  file: (done: (file: File) => void) => done(aFile(name)),
})
/** A folder whose entries come in batches of two, as browsers give them in parts. */
function folderEntry(fullPath: string, entries: object[]) {
  return {
    isDirectory: true,
    fullPath,
    createReader: () => {
      let at = 0
      return {
        readEntries: (done: (batch: object[]) => void) => done(entries.slice(at, (at += 2))),
      }
    },
  }
}
const item = (entry: object, file: File | null, handle?: object) => ({
  kind: 'file',
  webkitGetAsEntry: () => entry,
  getAsFile: () => file,
  ...(handle ? { getAsFileSystemHandle: () => Promise.resolve(handle) } : {}),
})
const drop = (...items: object[]) => filesFromDrop({ items } as unknown as DataTransfer)
const names = (found: Awaited<ReturnType<typeof drop>>) =>
  found.map(({ file, folder }) => `${folder}/${file.name}`)

describe('what is dropped', () => {
  it('is walked, folders in folders, all parts of them', async () => {
    const inner = folderEntry('/card/day 1', ['a.mp4', 'b.mp4', 'c.mp4'].map(fileEntry))
    const card = folderEntry('/card', [fileEntry('index.xml'), inner, fileEntry('z.mp4')])
    expect(names(await drop(item(card, null)))).toEqual([
      'card/index.xml',
      'card/day 1/a.mp4',
      'card/day 1/b.mp4',
      'card/day 1/c.mp4',
      'card/z.mp4',
    ])
  })
  it('keeps the handle of a file where the browser gives one', async () => {
    const handle = { kind: 'file', name: 'a.mp4' }
    const [kept] = await drop(item(fileEntry('a.mp4'), aFile('a.mp4'), handle))
    expect(kept!.handle).toBe(handle)
    const [none] = await drop(item(fileEntry('a.mp4'), aFile('a.mp4'), { kind: 'directory' }))
    expect(none!.handle).toBeUndefined()
  })
  it('goes on without a handle where the browser refuses it', async () => {
    const refusing = {
      ...item(fileEntry('a.mp4'), aFile('a.mp4')),
      getAsFileSystemHandle: () => Promise.reject(new DOMException('no', 'NotAllowedError')),
    }
    expect(names(await drop(refusing))).toEqual(['/a.mp4'])
  })
  it('leaves out text, and files that hide', async () => {
    const text = { ...item(fileEntry('t'), null), kind: 'string' }
    expect(names(await drop(text, item(fileEntry('.DS'), aFile('.DS'))))).toEqual([])
  })
})

describe('what is picked', () => {
  it('keeps the folders that it was in, and leaves out what hides', () => {
    const at = (path: string) =>
      Object.defineProperty(aFile(path.split('/').at(-1)!), 'webkitRelativePath', { value: path })
    const list = [at('card/day 1/a.mp4'), at('card/.index'), at('b.mp4')] as unknown as FileList
    expect(names(filesFromPicker(list))).toEqual(['card/day 1/a.mp4', '/b.mp4'])
  })
})
