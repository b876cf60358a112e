import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { RedocStandalone } from 'redoc'
import { Link } from 'react-router'
import { answerOf, api } from '../api/client'
import { Answer } from '../ui/answer'

/** A colour or a font of the page, as the styles have it. */
const token = (name: string) =>
  getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim()

const looks = () => ({
  disableSearch: true,
  hideDownloadButtons: true,
  hideLoading: true,
  hideSchemaPattern: true,
  nativeScrollbars: true,
  expandResponses: '200,201',
  scrollYOffset: 48,
  theme: {
    colors: {
      primary: { main: token('color-ink') },
      success: { main: token('color-edge') },
      error: { main: token('color-brick') },
      text: { primary: token('color-ink'), secondary: token('color-soft') },
      border: { dark: token('color-edge'), light: token('color-hair') },
      http: { get: token('color-ink'), post: token('color-ochre'), patch: token('color-brick') },
    },
    typography: {
      fontSize: '14px',
      lineHeight: '1.45',
      fontFamily: token('font-sans'),
      headings: { fontFamily: token('font-cond'), fontWeight: '600', lineHeight: '1.2' },
      code: { fontSize: '13px', color: token('color-ink'), backgroundColor: token('color-sand'), wrap: true },
      links: { color: token('color-ink'), visited: token('color-ink'), hover: token('color-soft') },
    },
    sidebar: {
      width: '220px',
      backgroundColor: token('color-sheet'),
      textColor: token('color-ink'),
      activeTextColor: token('color-ink'),
    },
    rightPanel: { backgroundColor: token('color-ink'), textColor: token('color-sheet'), width: '36%' },
    schema: {
      nestedBackground: token('color-paper'),
      typeNameColor: token('color-soft'),
      typeTitleColor: token('color-soft'),
    },
  },
})

/** What those who build a shop's side of the door read, made from the contract itself. */
export function Reference() {
  const [options] = useState(looks)
  const contract = useQuery({
    queryKey: ['releases', 'reference'],
    queryFn: ({ signal }) => answerOf(api.GET('/api/reference', { signal })),
    staleTime: Infinity,
  })
  return (
    <div className="reference bg-sheet">
      <header className="sticky top-0 z-10 flex h-12 items-center gap-4 border-b border-ink bg-sheet px-4">
        <Link to="/release/door" className="underline">
          Checkout door
        </Link>
        <h1 className="text-lg">API reference</h1>
      </header>
      <Answer of={contract}>{(found) => <RedocStandalone spec={found} options={options} />}</Answer>
    </div>
  )
}
