import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'

const most = 60 // trees that are remembered

/** What somebody could not tell of a tree in a key walk: it is not asked again until they want it. */
export const useCannotTell = defineStore('cannot tell', () => {
  const trees = useLocalStorage<[tree: string, characters: string[]][]>('palethicket.cannot-tell', [])
  const of = (tree: string) => trees.value.find(([t]) => t === tree)?.[1] ?? []
  const forget = (tree: string) => (trees.value = trees.value.filter(([t]) => t !== tree))

  function add(tree: string, character: string) {
    const known = of(tree)
    trees.value = [[tree, [...known.filter((c) => c !== character), character]], ...trees.value.filter(([t]) => t !== tree)].slice(
      0,
      most,
    ) as [string, string[]][]
  }

  return { of, add, forget }
})
