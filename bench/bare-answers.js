import process from 'node:process';
import Fastify from 'fastify';

/** A process of its own that does nothing but send what it was told for a path. Told by messages: [path, body]; told back when it knows. */
const bodies = new Map();
const bare = Fastify();
bare.get('/bare', (request, reply) => reply.type('application/json').send(bodies.get(request.query.path)));
const url = await bare.listen({ host: '127.0.0.1', port: 0 });
process.on('message', ([path, body]) => {
  bodies.set(path, body);
  process.send({ path });
});
process.once('disconnect', () => process.exit());
process.send({ url });
