import { inheritedTemplate, templateChoices } from '#core/template'
import { useSelection, useSite } from '../document/site-context'
import { Pick } from '../parts/picks/pick'

const asPlaced = 'as-placed'

/** With which template the chosen pages are made, and those below them, as a sentence. */
export function PageTemplate() {
  const { site, store, tree } = useSite()
  const { selected, chosen } = useSelection()
  const nameOf = (id: string) => site.templates.find((one) => one.id === id)?.name ?? ''
  const pageIds = chosen.map((page) => page.id)
  const choose = (of: 'page' | 'below', templateId: string) =>
    void store.change({
      kind: 'chooseTemplate',
      pageIds,
      of,
      templateId: templateId === asPlaced ? null : templateId,
    })
  const given = nameOf(inheritedTemplate(site, selected))
  const hasBelow = chosen.some((page) => tree.childrenOf(page.id).length > 0)
  const options = site.templates.map(({ id, name }) => ({ value: id, words: name }))
  return (
    <p className="font-serif text-[17px] leading-[1.7]">
      {chosen.length === 1 ? (
        <>“{selected.label}” is made with </>
      ) : (
        <>{chosen.length} pages are made with </>
      )}
      <Pick
        label="Template of the page"
        value={selected.templateId ?? asPlaced}
        options={[
          {
            value: asPlaced,
            words: nameOf(templateChoices(site).get(selected.id) ?? site.templateId),
            hint: `As its place has it: ${given}`,
          },
          ...options,
        ]}
        onPick={(id) => choose('page', id)}
        after={hasBelow ? ',' : '.'}
      />
      {hasBelow && (
        <>
          {' '}
          pages below {chosen.length === 1 ? 'it' : 'them'} with{' '}
          <Pick
            label="Template of the pages below"
            value={selected.belowTemplateId ?? asPlaced}
            options={[{ value: asPlaced, words: given, hint: 'As its place has it' }, ...options]}
            onPick={(id) => choose('below', id)}
            after="."
          />
        </>
      )}
    </p>
  )
}
