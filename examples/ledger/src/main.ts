/*
 * The office's ledger of dues: a small script that was written for the first edition of the harbour's API.
 * It has not been touched since, and reads what it always read. Start the harbour with `npm start`, then run it.
 */
import { duesLedger } from './dues-ledger.js';

const [address = 'http://127.0.0.1:8080', token = 'demo-office'] = process.argv.slice(2);
for (const line of await duesLedger(address, token)) console.log(line);
