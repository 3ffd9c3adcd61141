/** The book of a device opens while the page is still read: this is imported first. */
import { askDevice, begin, recall } from './device'

await recall()
begin()
/** To whoever looks into the page's works: asks the device's book. */
Object.assign(window, { paleThicket: { ask: askDevice } })
