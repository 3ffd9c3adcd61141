/** One of the pages behind a door. */
interface Tab {
  to: string
  label: string
  /** Other addresses that belong to it. */
  also?: string[]
}

/** A way into a part of the program. */
export interface Door extends Tab {
  icon: string
  /** Pages side by side behind it; without: one. */
  tabs?: Tab[]
}

/** The doors of the bar, in the order of a day. The first three are in a phone's bar too. */
export const doors: Door[] = [
  { to: '/', label: 'Trees', icon: 'pi pi-list', also: ['/trees'] },
  { to: '/worklist', label: 'Worklist', icon: 'pi pi-check-square' },
  { to: '/map', label: 'Map', icon: 'pi pi-map' },
  { to: '/stands', label: 'Stands', icon: 'pi pi-chart-bar' },
  { to: '/day', label: 'Day', icon: 'pi pi-calendar' },
  {
    to: '/flora',
    label: 'Flora',
    icon: 'pi pi-book',
    tabs: [
      { to: '/flora', label: 'Trees' },
      { to: '/characters', label: 'Characters' },
      { to: '/compare', label: 'Look-alikes', also: ['/pair'] },
      { to: '/lists', label: 'Species lists' },
      { to: '/key', label: 'Keys' },
    ],
  },
  { to: '/practice', label: 'Practice', icon: 'pi pi-sync' },
]

/** What is behind "More", in groups. */
export const more: { label: string; doors: Door[] }[] = [
  {
    label: 'Paper and files',
    doors: [
      { to: '/paper', label: 'Print', icon: 'pi pi-print', also: ['/t'] },
      { to: '/files', label: 'Import and export', icon: 'pi pi-file' },
    ],
  },
  {
    label: 'Crew',
    doors: [
      { to: '/crew', label: 'People', icon: 'pi pi-users' },
      { to: '/checks', label: 'Check cruises', icon: 'pi pi-verified' },
      { to: '/woods', label: 'Offline', icon: 'pi pi-wifi', also: ['/waiting'] },
    ],
  },
  {
    label: 'Tools',
    doors: [
      { to: '/measure', label: 'Measure', icon: 'pi pi-calculator' },
      { to: '/settings', label: 'Settings', icon: 'pi pi-cog' },
    ],
  },
]

const within = (path: string, of: string) => path === of || path.startsWith(of + '/')

/** Whether a page lies behind a door, or behind a tab of it. */
export const behind = (door: Tab & { tabs?: Tab[] }, path: string): boolean =>
  [door.to, ...(door.also ?? [])].some((of) => within(path, of)) || (door.tabs ?? []).some((t) => behind(t, path))
