import { Box, chakra, Flex, Text } from '@chakra-ui/react';
import { counted } from '@modest-sieve/core/foundation';
import { useRef, type ReactNode } from 'react';
import { Link, NavLink, useNavigate } from 'react-router';
import { api } from '../api/address.js';
import { send, type Schemas } from '../api/client.js';
import { useColourMode } from '../colour-mode.js';
import { HelpSheet } from './help-sheet.js';
import { TextAction } from '../kit/form/action.js';
import { PartPatterns } from '../kit/plot/parts.js';
import { useSteadyFocus } from '../kit/layout/steady-focus.js';
import { TroubleLine } from '../kit/layout/trouble-line.js';

const PAGES = {
  instructor: [
    ['data', 'Data'],
    ['exercises', 'Exercises'],
    ['gradebook', 'Gradebook'],
    ['people', 'People'],
  ],
  assistant: [
    ['exercises', 'Exercises'],
    ['gradebook', 'Gradebook'],
  ],
  student: [
    ['exercises', 'Exercises'],
    ['marks', 'Marks'],
  ],
} as const;

function Mark() {
  return (
    <svg
      width="24"
      height="24"
      viewBox="0 0 24 24"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.5"
      aria-hidden
    >
      <path
        d="M2.5 6h19l-3 8.500H5.500zM8.500 6l.9 8.500M15.500 6l-.9 8.500M4 10.200h16"
        strokeLinecap="round"
      />
      <g fill="currentColor" stroke="none">
        <circle cx="9" cy="18" r="1.200" />
        <circle cx="12.500" cy="21" r="1.200" />
        <circle cx="15" cy="18" r="1.200" />
      </g>
    </svg>
  );
}

interface FrameProps {
  readonly session: Schemas['SessionInfo'];
  readonly course?: Schemas['CourseDetail'];
  readonly children: ReactNode;
}

/** The slim bar on every page, and the page under it. */
export function Frame({ session, course, children }: FrameProps) {
  const { mode, change } = useColourMode();
  const navigate = useNavigate();
  const page = useRef<HTMLElement>(null);
  useSteadyFocus(page);
  const signOut = async () => {
    await send('delete', api('/api/v1/session'));
    await navigate('/');
  };
  return (
    <Box minH="100vh">
      <PartPatterns />
      <chakra.a
        href="#page"
        position="absolute"
        left="-9999px"
        _focus={{ left: 2, top: 2, bg: 'sheet', px: 3, py: 2, zIndex: 10 }}
        onClick={(event) => {
          event.preventDefault();
          document.getElementById('page')?.focus();
        }}
      >
        Skip to the page
      </chakra.a>
      <Flex
        as="header"
        _print={{ display: 'none' }}
        align="center"
        columnGap={7}
        rowGap={1}
        wrap="wrap"
        px={6}
        minH="45px"
        py={1}
        borderBottom="1px solid"
        borderColor="rule"
        fontSize="14.5px"
      >
        <Link
          to="/"
          style={{ textDecoration: 'none', color: 'inherit' }}
          aria-label="Modest Sieve, your courses"
        >
          <Flex align="center" gap={3}>
            <Mark />
            <Text as="span" fontFamily="heading" fontWeight={700} fontSize="17px">
              Modest Sieve
            </Text>
          </Flex>
        </Link>
        {course ? (
          <>
            <Text color="quiet" borderLeft="1px solid" borderColor="rule" pl={4}>
              {course.name}
            </Text>
            <Flex as="nav" aria-label="Pages of this course" gap={6} wrap="wrap">
              {PAGES[course.role].map(([page, text]) => (
                <NavLink key={page} to={`/courses/${course.id}/${page}`} style={{ textDecoration: 'none' }}>
                  {({ isActive }) => (
                    <Text as="span" color={isActive ? 'accent' : 'ink'} fontWeight={isActive ? 700 : 500}>
                      {text}
                    </Text>
                  )}
                </NavLink>
              ))}
            </Flex>
          </>
        ) : null}
        <Flex ml="auto" gap={5} align="center" color="quiet" fontSize="13.5px">
          {course ? <JobsRunning course={course} /> : null}
          <HelpSheet role={course?.role ?? null} />
          <TextAction onClick={change}>{mode === 'dark' ? 'Light' : 'Dark'}</TextAction>
          {session.person ? (
            <>
              {session.administers ? (
                <Link to="/administration" style={{ color: 'inherit' }}>
                  Administration
                </Link>
              ) : null}
              <Link to="/you" style={{ color: 'inherit' }}>
                {session.person.name}
              </Link>
              <TextAction onClick={() => void signOut()}>Sign out</TextAction>
            </>
          ) : null}
        </Flex>
      </Flex>
      <TroubleLine />
      <Box as="main" ref={page} id="page" tabIndex={-1} outline="none" px={6} pb={12}>
        {children}
      </Box>
    </Box>
  );
}

/** Jobs under way; staff find them by it at any time. */
function JobsRunning({ course }: { course: Schemas['CourseDetail'] }) {
  const text = course.running === 0 ? 'Jobs' : `${counted(course.running, 'job')} running`;
  if (course.role === 'student') return course.running === 0 ? null : <Text role="status">{text}</Text>;
  return (
    <Box role="status">
      <Link to={`/courses/${course.id}/jobs`} style={{ color: 'inherit' }}>
        {text}
      </Link>
    </Box>
  );
}
