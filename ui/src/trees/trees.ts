import { defineStore } from 'pinia'
import { watch } from 'vue'
import { ulid } from 'ulid'
import { api, type TreeLine } from '../api/client'
import { useAsk } from '../frame/ask'
import type { Among } from '../frame/vocabulary'
import { useFilter } from './filter'
import { usePages } from '../frame/pages'

/** The list of trees. */
export const useTrees = defineStore('trees', () => {
  const filter = useFilter('trees')
  const pages = usePages<TreeLine>((limit, offset) => api.GET('/api/trees', { params: { query: { ...filter.query, limit, offset } } }))
  watch(() => filter.query, pages.load)

  const { wrong, busy, asked, ask } = useAsk({ typed: true })
  /** Starts a tree; gives its id, or nothing where it was refused. */
  async function start(tag: string, tract: string, stand: string, among: Among, isNew = false): Promise<string | undefined> {
    const id = ulid()
    const { ok } = await ask(
      api.POST('/api/trees', {
        body: { id, tag: tag.trim(), tract: tract.trim(), stand: stand.trim(), ...among, new: isNew || undefined },
      }),
    )
    return ok ? id : undefined
  }

  return {
    trees: pages.list,
    total: pages.total,
    wrong: pages.wrong,
    loaded: pages.loaded,
    load: pages.load,
    again: pages.again,
    all: pages.all,
    more: pages.more,
    refused: wrong,
    busy,
    asked,
    start,
  }
})
