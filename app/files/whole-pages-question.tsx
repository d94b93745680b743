import { useNavigate } from 'react-router'
import { handToBringing } from '../bringing/handed'
import { useSelection, useSite } from '../document/site-context'
import { Question } from '../frame/question'
import { count } from '../parts/format'
import type { FolderFile } from '../parts/files-of-drop'
import { useFiles } from './files-context'
import { isWebPage } from './text-name'

/** Asks of web pages that came with other files whether they are to be brought in with all that belongs to them. */
export function WholePagesQuestion({ files }: { files: readonly FolderFile[] }) {
  const { site } = useSite()
  const { selected } = useSelection()
  const { offerWhole, bringEach } = useFiles()
  const navigate = useNavigate()
  const pages = files.filter(({ file }) => isWebPage(file.name)).length
  const others = files.length - pages
  const where = selected.id === site.homeId ? '' : `, under “${selected.label}”`
  return (
    <Question
      name="Web pages"
      lead="Web pages"
      ripple={null}
      answers={[
        {
          words: 'Bring them in',
          look: 'go',
          onChoose() {
            handToBringing(files)
            offerWhole([])
            void navigate(`/sites/bring?into=${site.id}&under=${selected.id}`)
          },
        },
        {
          words: 'Take each by itself',
          onChoose() {
            offerWhole([])
            bringEach(files)
          },
        },
        { words: 'Leave', onChoose: () => offerWhole([]) },
      ]}
    >
      {count(pages, 'web page')}
      {others > 0 && ` and ${count(others, 'other file')}`}. Brought in, they come with the frame that they
      share and what they need{where}, and you see first what comes of it.
    </Question>
  )
}
