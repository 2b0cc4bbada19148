// node relay.mjs HOST PORT DELAY: prints the port on loopback on which it takes connections to there. What comes back is
// passed on so many milliseconds later: the round trip of a network between.
import { connect, createServer } from 'node:net';

const [host, port, delay] = process.argv.slice(2);
const later = Number(delay);

const server = createServer({ noDelay: true }, (near) => {
  const far = connect({ host, port: Number(port), noDelay: true });
  const close = () => {
    near.destroy();
    far.destroy();
  };
  near.on('data', (piece) => far.write(piece));
  far.on('data', (piece) => (later > 0 ? setTimeout(() => near.write(piece), later) : near.write(piece)));
  for (const end of [near, far]) end.on('error', close).on('close', close);
});
server.listen(0, '127.0.0.1', () => {
  const address = server.address();
  console.log(typeof address === 'object' ? address?.port : address);
});
