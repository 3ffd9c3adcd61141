import { createApp, nextTick } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { beforeEach, describe, expect, it, onTestFinished, vi } from 'vitest'
import { server } from '../testing/server'
import { freshPinia } from '../testing/pinia'

const book = server()
const { useFilter, useFilterInAddress } = await import('./filter')
const { useStands } = await import('./stands')
const { useTrees } = await import('./trees')

beforeEach(() => {
  freshPinia()
  book.forget()
})

describe('the filter', () => {
  it('asks for what is set and nothing else', async () => {
    const filter = useFilter('trees')
    expect(Object.values(filter.query).filter(Boolean)).toEqual([])
    expect(filter.search).toBe('')
    filter.choose('Lantern Creek', 'North cove')
    filter.toggle('open')
    filter.toggle('doubtful')
    expect(filter.search).toBe('tract=Lantern+Creek&stand=North+cove&status=open&status=doubtful')
    filter.toggle('open')
    expect(filter.query.status).toEqual(['doubtful'])
    filter.clear()
    expect(filter.on).toBe(false)
  })
  it('stays with its page', () => {
    useFilter('stands').choose('Lantern Creek', 'North cove')
    expect(useFilter('trees').on).toBe(false)
    expect(useFilter('files').search).toBe('')
    expect(useFilter('stands').where.stand).toBe('North cove')
  })
  it('waits for the typing to rest', async () => {
    vi.useFakeTimers()
    const filter = useFilter('trees')
    filter.typed = ' oak '
    await nextTick()
    expect(filter.query.text).toBeUndefined()
    await vi.advanceTimersByTimeAsync(300)
    expect(filter.query.text).toBe('oak')
    vi.useRealTimers()
  })
  it('knows the tracts by their stands', async () => {
    book.on('GET /api/stands', [
      { tract: 'A', stand: '1' },
      { tract: 'A', stand: '2' },
      { tract: 'B', stand: '1' },
    ])
    const filter = useFilter('trees')
    await useStands().load()
    expect(useStands().tracts).toEqual(['A', 'B'])
    filter.choose('B', '')
    expect(filter.stands.map((s) => s.stand)).toEqual(['1'])
  })
})

describe('the address', () => {
  /** A page with trees that are looked for, opened at an address. */
  async function opened(address: string) {
    const router = createRouter({
      history: createMemoryHistory(),
      routes: ['/', '/flora'].map((path) => ({ path, component: { render: () => null } })),
    })
    await router.push(address)
    const app = createApp({ setup: () => (useFilterInAddress('trees'), () => null) }).use(router)
    app.mount(document.createElement('div'))
    onTestFinished(() => app.unmount())
    const becomes = (path: string) => vi.waitFor(() => expect(router.currentRoute.value.fullPath).toBe(path))
    const stays = async (path: string) => {
      await new Promise((r) => setTimeout(r, 20))
      expect(router.currentRoute.value.fullPath).toBe(path)
    }
    return { filter: useFilter('trees'), router, becomes, stays }
  }
  it('sets the filter, and follows it', async () => {
    const { filter, becomes } = await opened('/?stand=North+cove&tract=Lantern+Creek&status=open&status=doubtful&text=825&sort=buds')
    expect(filter.query).toMatchObject({
      tract: 'Lantern Creek',
      stand: 'North cove',
      status: ['open', 'doubtful'],
      text: '825',
      sort: 'buds',
    })
    filter.clear()
    await becomes('/')
    filter.toggle('open')
    await becomes('/?status=open')
  })
  it('says what the page was left with', async () => {
    useFilter('trees').choose('Lantern Creek', '')
    const { becomes, stays, router } = await opened('/')
    await becomes('/?tract=Lantern+Creek')
    await router.push('/flora')
    await stays('/flora')
  })
  it('of a new tree is left alone', async () => {
    const { filter, stays } = await opened('/?begin=LC-9&tract=Lantern+Creek')
    expect(filter.on).toBe(false)
    await stays('/?begin=LC-9&tract=Lantern+Creek')
  })
})

describe('the list of trees', () => {
  const page = (search: string) => {
    const from = Number(new URLSearchParams(search).get('offset') ?? 0)
    return { total: 70, trees: Array.from({ length: Math.min(60, 70 - from) }, (_, i) => ({ id: `t${from + i}` })) }
  }
  it('comes a page at a time', async () => {
    book.on('GET /api/trees', page)
    const trees = useTrees()
    await trees.load()
    expect([trees.trees.length, trees.total]).toEqual([60, 70])
    await trees.more()
    expect(trees.trees.map((t) => t.id).at(-1)).toBe('t69')
    expect(new Set(trees.trees.map((t) => t.id)).size).toBe(70)
  })
  it('is asked for again when the filter changes', async () => {
    book.on('GET /api/trees', page)
    const trees = useTrees()
    await trees.load()
    useFilter('trees').choose('Lantern Creek', '')
    await vi.waitFor(() => expect(book.last('GET')?.path).toContain('tract=Lantern'))
    expect(trees.trees.length).toBe(60)
  })
  it('says when there is no connection, and keeps what it had', async () => {
    book.on('GET /api/trees', page)
    const trees = useTrees()
    await trees.load()
    book.connect(false)
    await trees.more()
    expect(trees.wrong).toEqual(['No connection to the book.'])
    expect(trees.trees.length).toBe(60)
  })
  it('starts a tree with what was typed, trimmed, or says what was wrong', async () => {
    const trees = useTrees()
    book.on('POST /api/trees', { tree: {} })
    expect(await trees.start(' LC-1 ', 'Lantern Creek ', 'Upper slope', { region: 'eastern-north-america' })).toHaveLength(26)
    expect(book.last('POST')?.body).toMatchObject({ tag: 'LC-1', tract: 'Lantern Creek', region: 'eastern-north-america' })
    book.on('POST /api/trees', { errors: [{ message: 'choose another tag' }] })
    expect(await trees.start('LC-1', 'x', 'y', { region: 'z' })).toBeUndefined()
    expect(trees.refused).toEqual(['Choose another tag'])
  })
})
