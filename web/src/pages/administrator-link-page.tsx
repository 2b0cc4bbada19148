import { Box, Text } from '@chakra-ui/react';
import { useNavigate, useParams } from 'react-router';
import { api } from '../api/address.js';
import { send } from '../api/client.js';
import { Action } from '../kit/form/action.js';
import { Frame } from '../frame/frame.js';
import { ErrorMessage } from '../kit/layout/error-message.js';
import { Title } from '../kit/layout/title.js';
import { useAction } from '../kit/form/use-action.js';
import { useSession } from './session.js';

/** Where the link that the start of a server printed leads. */
export function AdministratorLinkPage() {
  const session = useSession();
  const { secret = '' } = useParams();
  const doing = useAction();
  const navigate = useNavigate();
  const claim = async () => {
    await send('post', api('/api/v1/administrator-links/{secret}', { secret }));
    await navigate('/administration');
  };
  return (
    <Frame session={session}>
      <Title>The administrator of this server</Title>
      <Text mt={2} maxW="62ch">
        This server has no administrator yet. The administrator says who may make courses, makes links for new
        passwords, and deletes people and courses. The link works once.
      </Text>
      <Box mt={5}>
        <Action busy={doing.busy} onClick={() => doing.run(claim)}>
          Become the administrator as {session.person?.name}
        </Action>
      </Box>
      <ErrorMessage>{doing.problem?.message}</ErrorMessage>
    </Frame>
  );
}
