import { Box, chakra, Text } from '@chakra-ui/react';
import { Link } from 'react-router';
import useSWR from 'swr';
import { Frame } from '../frame/frame.js';
import { Answer } from '../kit/answer/states.js';
import { Cell, Ruled } from '../kit/table/table.js';
import { Subtitle, Title } from '../kit/layout/title.js';
import { useSession } from '../pages/session.js';
import {
  nameOf,
  routesByTopic,
  schemaWords,
  topicTitle,
  type ApiDocument,
  type Schema,
} from './api-document.js';
import { useAnchor } from './use-anchor.js';

const fetchDocument = async (): Promise<ApiDocument> =>
  (await import('../../../docs/api/openapi.json')).default as unknown as ApiDocument;

/** The reference of the HTTP API: its routes, and what they take and answer. */
export function ApiPage() {
  const session = useSession();
  const document = useSWR<ApiDocument, never>('api document', fetchDocument, { revalidateOnFocus: false });
  useAnchor(document.data !== undefined);
  return (
    <Frame session={session}>
      <Title actions={<Link to="/help">All guides</Link>}>HTTP API</Title>
      <Text mt={2} maxW="72ch">
        A program calls these with a personal access token, made on your own page, in the header{' '}
        <chakra.code fontFamily="mono">Authorization: Bearer …</chakra.code>. Errors are problem details (RFC
        9457). Routes that need a session are called by the pages of the program alone.
      </Text>
      <Answer of={document} what="the reference">
        {(found) => <Reference document={found} />}
      </Answer>
    </Frame>
  );
}

function Reference({ document }: { document: ApiDocument }) {
  return (
    <>
      {[...routesByTopic(document)].map(([topic, routes]) => (
        <Box key={topic}>
          <Subtitle>{topicTitle(topic)}</Subtitle>
          <Ruled
            label={topicTitle(topic)}
            headings={[
              { text: 'route' },
              { text: 'who' },
              { text: 'token' },
              { text: 'query' },
              { text: 'takes' },
              { text: 'answers' },
            ]}
          >
            {routes.map(({ method, path, audience, scope, query, takes, takesFile, answers }) => (
              <tr key={`${method} ${path}`}>
                <Cell>
                  <chakra.code fontFamily="mono" overflowWrap="anywhere">
                    {method} {path}
                  </chakra.code>
                </Cell>
                <Cell>{audience}</Cell>
                <Cell>{scope === 'session' ? '–' : scope}</Cell>
                <Cell>{query.length > 0 ? query.join(', ') : '–'}</Cell>
                <Cell>{takesFile ? 'a file, as a form' : <SchemaLink schema={takes} />}</Cell>
                <Cell>
                  <SchemaLink schema={answers} />
                </Cell>
              </tr>
            ))}
          </Ruled>
        </Box>
      ))}
      <Subtitle>Schemas</Subtitle>
      {Object.entries(document.components.schemas).map(([name, schema]) => (
        <Box key={name} mt={4}>
          <chakra.h3 id={name} fontWeight={700} fontFamily="mono" fontSize="14.5px">
            {name}
          </chakra.h3>
          <SchemaText name={name} schema={schema} />
        </Box>
      ))}
    </>
  );
}

function SchemaText({ name, schema }: { name: string; schema: Schema }) {
  const { description, properties, required = [] } = schema;
  return (
    <>
      {description === undefined ? null : <Text fontSize="14px">{description}</Text>}
      {properties ? (
        <Ruled label={name} headings={[{ text: 'field' }, { text: 'type' }, { text: 'meaning' }]}>
          {Object.entries(properties).map(([key, of]) => (
            <tr key={key}>
              <Cell mono>{required.includes(key) ? key : `${key}?`}</Cell>
              <Cell>
                <SchemaLink schema={of} />
              </Cell>
              <Cell>{of.description}</Cell>
            </tr>
          ))}
        </Ruled>
      ) : (
        <Text fontSize="14px">
          <SchemaLink schema={schema} />
        </Text>
      )}
    </>
  );
}

function SchemaLink({ schema }: { schema: Schema | null }) {
  if (schema === null) return <>–</>;
  const name = nameOf(schema.items ?? schema);
  const words = schemaWords(schema);
  return name === null ? <>{words}</> : <Link to={`#${name}`}>{words}</Link>;
}
