import { Box } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import ReactMarkdown from 'react-markdown';
import { Link, useParams } from 'react-router';
import rehypeSlug from 'rehype-slug';
import remarkGfm from 'remark-gfm';
import useSWR from 'swr';
import { Frame } from '../frame/frame.js';
import { Empty, Loading } from '../kit/answer/states.js';
import { Title } from '../kit/layout/title.js';
import { useSession } from '../pages/session.js';
import { GUIDES, guideLink, guideText } from './guides.js';
import { useAnchor } from './use-anchor.js';

/** The guides of the program, and one of them as it reads. */
export function GuidePage() {
  const session = useSession();
  const { guide } = useParams();
  return <Frame session={session}>{guide === undefined ? <Contents /> : <Guide name={guide} />}</Frame>;
}

function Contents() {
  return (
    <>
      <Title>Help</Title>
      <Box
        as="ul"
        mt={4}
        fontSize="15px"
        css={{ '& li': { marginBottom: '0.4em' }, '& a': { textDecoration: 'underline' } }}
      >
        {GUIDES.map(({ name, title, about }) => (
          <li key={name}>
            <Link to={`/help/${name}`}>{title}</Link>: {about}
          </li>
        ))}
        <li>
          <Link to="/help/api">HTTP API</Link>: every route, what it takes and what it answers
        </li>
      </Box>
    </>
  );
}

function Guide({ name }: { name: string }) {
  const { data: text } = useSWR(['guide', name], () => guideText(name), { revalidateOnFocus: false });
  useAnchor(typeof text === 'string');
  if (text === undefined) return <Loading what="the guide" />;
  if (text === null)
    return (
      <Empty title="There is no such guide">
        <Link to="/help">All guides</Link>
      </Empty>
    );
  const found = GUIDES.find((guide) => guide.name === name);
  return (
    <>
      <Title actions={<Link to="/help">All guides</Link>}>{found?.title}</Title>
      <Box mt={3} css={PROSE}>
        <ReactMarkdown
          remarkPlugins={[remarkGfm]}
          rehypePlugins={[rehypeSlug]}
          components={{
            // The title of the page says it already.
            h1: () => null,
            a: ({ href = '', children }) => <GuideLink to={guideLink(href, name)}>{children}</GuideLink>,
            img: () => null,
          }}
        >
          {text}
        </ReactMarkdown>
      </Box>
    </>
  );
}

function GuideLink({ to, children }: { to: string | null; children: ReactNode }) {
  if (to === null) return <>{children}</>;
  return <Link to={to}>{children}</Link>;
}

const PROSE = {
  fontSize: '15.5px',
  lineHeight: 1.6,
  '& p, & ul, & ol, & blockquote': { maxWidth: '72ch', marginBottom: '0.8em' },
  '& h2, & h3': { fontFamily: 'heading', fontWeight: 650, marginTop: '1.4em', marginBottom: '0.4em' },
  '& h2': { fontSize: '20px' },
  '& h3': { fontSize: '17px' },
  '& ul, & ol': { paddingLeft: '1.4em', listStyle: 'revert' },
  '& a': { textDecoration: 'underline', color: 'accent' },
  '& code': { fontFamily: 'mono', fontSize: '0.92em' },
  '& pre': { overflowX: 'auto', background: 'sheet', padding: '8px 12px', marginBottom: '0.8em' },
  '& blockquote': { borderLeft: '3px solid', borderColor: 'rule', paddingLeft: '1em' },
  '& table': { fontSize: '14px', display: 'block', overflowX: 'auto', marginBottom: '1em' },
  '& th, & td': {
    textAlign: 'left',
    verticalAlign: 'top',
    padding: '5px 14px 5px 0',
    borderBottom: '1px solid',
    borderColor: 'rule',
  },
};
