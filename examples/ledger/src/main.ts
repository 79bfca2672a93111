/*
 * The office's ledger of dues: a small script that was written for the first edition of the harbour's API. It reads what it
 * always read, though the API has moved on. Start the harbour with `npm start`, then run it.
 */
import { duesLedger } from './dues-ledger.js';

const [address = 'http://127.0.0.1:8080', token = 'demo-office'] = process.argv.slice(2);
try {
  for (const line of await duesLedger(address, token)) console.log(line);
} catch (error) {
  const { message, cause } = error as Error;
  console.error(cause instanceof Error ? `${address} does not answer: ${cause.message}` : message);
  process.exitCode = 1;
}
