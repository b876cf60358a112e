import { useQuery } from '@tanstack/react-query'
import { RedocStandalone } from 'redoc'
import { Link } from 'react-router'
import { answerOf, api } from '../api/client'
import { Answer } from '../ui/answer'

const INK = '#1b2430'
const SOFT = '#545d68'
const PAPER = '#f6f4ef'
const SHEET = '#fcfbf8'
const SANS = "'Barlow', system-ui, sans-serif"
const COND = "'Barlow Condensed', 'Barlow', system-ui, sans-serif"

const LOOKS = {
  disableSearch: true,
  hideDownloadButtons: true,
  hideLoading: true,
  hideSchemaPattern: true,
  nativeScrollbars: true,
  expandResponses: '200,201',
  scrollYOffset: 48,
  theme: {
    colors: {
      primary: { main: INK },
      success: { main: '#2f5d3a' },
      error: { main: '#a33220' },
      text: { primary: INK, secondary: SOFT },
      border: { dark: '#857f70', light: '#d9d4c8' },
      http: { get: INK, post: '#855700', patch: '#a33220' },
    },
    typography: {
      fontSize: '14px',
      lineHeight: '1.45',
      fontFamily: SANS,
      headings: { fontFamily: COND, fontWeight: '600', lineHeight: '1.2' },
      code: { fontSize: '13px', color: INK, backgroundColor: '#e4dbc7', wrap: true },
      links: { color: INK, visited: INK, hover: SOFT },
    },
    sidebar: { width: '220px', backgroundColor: SHEET, textColor: INK, activeTextColor: INK },
    rightPanel: { backgroundColor: INK, textColor: SHEET, width: '36%' },
    codeBlock: { backgroundColor: '#10161e' },
    schema: { nestedBackground: PAPER, typeNameColor: SOFT, typeTitleColor: SOFT },
  },
}

/** What those who build a shop's side of the door read, made from the contract itself. */
export function Reference() {
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
      <Answer of={contract}>{(found) => <RedocStandalone spec={found} options={LOOKS} />}</Answer>
    </div>
  )
}
