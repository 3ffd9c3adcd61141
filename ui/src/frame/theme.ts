import { definePreset } from '@primeuix/themes'
import base from '@primeuix/themes/aura/base'
import autocomplete from '@primeuix/themes/aura/autocomplete'
import badge from '@primeuix/themes/aura/badge'
import button from '@primeuix/themes/aura/button'
import chip from '@primeuix/themes/aura/chip'
import confirmdialog from '@primeuix/themes/aura/confirmdialog'
import datatable from '@primeuix/themes/aura/datatable'
import dialog from '@primeuix/themes/aura/dialog'
import fileupload from '@primeuix/themes/aura/fileupload'
import inputtext from '@primeuix/themes/aura/inputtext'
import menu from '@primeuix/themes/aura/menu'
import message from '@primeuix/themes/aura/message'
import password from '@primeuix/themes/aura/password'
import progressbar from '@primeuix/themes/aura/progressbar'
import select from '@primeuix/themes/aura/select'
import tabs from '@primeuix/themes/aura/tabs'
import toast from '@primeuix/themes/aura/toast'
import tooltip from '@primeuix/themes/aura/tooltip'
import virtualscroller from '@primeuix/themes/aura/virtualscroller'

/**
 * Paper and snow, bark browns, spruce green for what leads. Every colour is one of
 * base.css, so that light, dark and high contrast reach all components alike.
 */
const scheme = {
  primary: { color: 'var(--pt-spruce)', contrastColor: 'var(--pt-snow)', hoverColor: 'var(--pt-spruce)', activeColor: 'var(--pt-spruce)' },
  highlight: {
    background: 'var(--pt-spruce-pale)',
    focusBackground: 'var(--pt-spruce-pale)',
    color: 'var(--pt-ink)',
    focusColor: 'var(--pt-ink)',
  },
  text: { color: 'var(--pt-ink)', hoverColor: 'var(--pt-ink)', mutedColor: 'var(--pt-soft)', hoverMutedColor: 'var(--pt-ink)' },
  content: {
    background: 'var(--pt-snow)',
    hoverBackground: 'var(--pt-spruce-pale)',
    borderColor: 'var(--pt-line)',
    color: 'var(--pt-ink)',
    hoverColor: 'var(--pt-ink)',
  },
  overlay: {
    select: { background: 'var(--pt-snow)', borderColor: 'var(--pt-line)', color: 'var(--pt-ink)' },
    popover: { background: 'var(--pt-snow)', borderColor: 'var(--pt-line)', color: 'var(--pt-ink)' },
    modal: { background: 'var(--pt-snow)', borderColor: 'var(--pt-line)', color: 'var(--pt-ink)' },
  },
  list: {
    option: {
      focusBackground: 'var(--pt-spruce-pale)',
      selectedBackground: 'var(--pt-spruce-pale)',
      selectedFocusBackground: 'var(--pt-spruce-pale)',
      color: 'var(--pt-ink)',
      focusColor: 'var(--pt-ink)',
      selectedColor: 'var(--pt-ink)',
      selectedFocusColor: 'var(--pt-ink)',
    },
    optionGroup: { background: 'transparent', color: 'var(--pt-soft)' },
  },
  formField: {
    background: 'var(--pt-snow)',
    disabledBackground: 'var(--pt-paper)',
    filledBackground: 'var(--pt-snow)',
    borderColor: 'var(--pt-line)',
    hoverBorderColor: 'var(--pt-bark)',
    focusBorderColor: 'var(--pt-spruce)',
    invalidBorderColor: 'var(--pt-sumac)',
    color: 'var(--pt-ink)',
    placeholderColor: 'var(--pt-soft)',
    iconColor: 'var(--pt-soft)',
    floatLabelColor: 'var(--pt-soft)',
  },
}

/** The preset of the components in use alone: all ninety would be a third of the first script. */
const used = {
  ...base,
  components: {
    autocomplete,
    badge,
    button,
    chip,
    confirmdialog,
    datatable,
    dialog,
    fileupload,
    inputtext,
    menu,
    message,
    password,
    progressbar,
    select,
    tabs,
    toast,
    tooltip,
    virtualscroller,
  },
}

export const winter = definePreset(used, {
  semantic: {
    focusRing: { width: '3px', style: 'solid', color: 'var(--pt-spruce)', offset: '2px' },
    colorScheme: { light: scheme, dark: scheme },
  },
  components: {
    message: { colorScheme: { light: messages(), dark: messages() } },
    toast: { colorScheme: { light: messages(), dark: messages() } },
    tooltip: { root: { background: 'var(--pt-ink)', color: 'var(--pt-snow)' } },
  },
})

/** The colours of what is said to have gone well, or wrong. */
function messages() {
  const of = (background: string, color: string) => ({
    background,
    borderColor: color,
    color,
    shadow: 'none',
    detailColor: 'var(--pt-ink)',
  })
  return {
    success: of('var(--pt-spruce-pale)', 'var(--pt-spruce)'),
    info: of('var(--pt-snow)', 'var(--pt-ink)'),
    warn: of('var(--pt-straw)', 'var(--pt-straw-ink)'),
    error: of('var(--pt-sumac-pale)', 'var(--pt-sumac)'),
  }
}
