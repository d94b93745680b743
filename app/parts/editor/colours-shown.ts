import { syntaxTree } from '@codemirror/language'
import type { Range } from '@codemirror/state'
import {
  Decoration,
  type DecorationSet,
  EditorView,
  ViewPlugin,
  type ViewUpdate,
  WidgetType,
} from '@codemirror/view'

const look = EditorView.theme({
  '.cm-colour': {
    width: '1em',
    height: '1em',
    marginRight: '4px',
    padding: '0',
    border: '1px solid var(--rule)',
    verticalAlign: '-0.12em',
    backgroundColor: 'transparent',
    cursor: 'pointer',
  },
  '.cm-colour::-webkit-color-swatch-wrapper': { padding: '0' },
  '.cm-colour::-webkit-color-swatch': { border: 'none' },
  '.cm-colour::-moz-color-swatch': { border: 'none' },
})

let probe: CanvasRenderingContext2D | null = null

/** A colour as `#rrggbb`, however it is written (CSS Color 4); null for what is none, or is not opaque. */
function hexOf(text: string): string | null {
  if (!CSS.supports('color', text)) return null
  probe ??= document.createElement('canvas').getContext('2d')
  if (!probe) return null
  const read = (ground: string) => {
    probe!.fillStyle = ground
    probe!.fillStyle = text
    return probe!.fillStyle
  }
  // What stands for another colour is known only where it is used, and leaves the ground as it was.
  const hex = read('#000000')
  return hex === read('#ffffff') && /^#[0-9a-f]{6}$/.test(hex) ? hex : null
}

class Swatch extends WidgetType {
  constructor(
    private readonly text: string,
    private readonly hex: string,
  ) {
    super()
  }
  override eq(other: Swatch) {
    return other.text === this.text
  }
  override toDOM(view: EditorView) {
    const input = document.createElement('input')
    input.type = 'color'
    input.className = 'cm-colour'
    input.value = this.hex
    input.setAttribute('aria-label', `Choose another colour for ${this.text}`)
    input.title = `Choose another colour for ${this.text}`
    // It stands beside each colour: by keyboard the text itself is at hand.
    input.tabIndex = -1
    input.disabled = view.state.readOnly
    // Written when it has been chosen, not at each colour on the way.
    input.addEventListener('change', () => {
      const from = view.posAtDOM(input)
      if (view.state.sliceDoc(from, from + this.text.length) !== this.text) return
      view.dispatch({
        changes: { from, to: from + this.text.length, insert: input.value },
        userEvent: 'input.colour',
      })
    })
    return input
  }
  override ignoreEvent() {
    return true
  }
}

const mayBeColour = /^(ColorLiteral|ValueName|CallExpression)$/

function swatchesIn(view: EditorView): DecorationSet {
  const found: Range<Decoration>[] = []
  for (const { from, to } of view.visibleRanges)
    syntaxTree(view.state).iterate({
      from,
      to,
      enter(node) {
        if (!mayBeColour.test(node.name) || node.to - node.from > 80) return
        const text = view.state.sliceDoc(node.from, node.to)
        const hex = hexOf(text)
        if (hex === null) return
        found.push(Decoration.widget({ widget: new Swatch(text, hex), side: -1 }).range(node.from))
        return false
      },
    })
  return Decoration.set(found, true)
}

/** Beside each colour of a style sheet in view a patch of it, which opens the choice of another. */
export const coloursShown = [
  look,
  ViewPlugin.fromClass(
    class {
      decorations: DecorationSet
      constructor(view: EditorView) {
        this.decorations = swatchesIn(view)
      }
      update(update: ViewUpdate) {
        const isRead = syntaxTree(update.startState) !== syntaxTree(update.state)
        if (update.docChanged || update.viewportChanged || isRead) this.decorations = swatchesIn(update.view)
      }
    },
    { decorations: ({ decorations }) => decorations },
  ),
]
