import { ApiProblem, isProblem } from '@gribo-examples/harbour/generated/client.js';
import { Alert, Button, Group, Modal, Stack, Text, TextInput } from '@mantine/core';
import { useState } from 'react';
import { type Arrival, agentClient, wordsOf } from '../call-api.js';

/** Why a call was not cancelled, for a person. */
const whyNot = (error: unknown): string => {
  if (isProblem(error, 'portCalls.cancel', 'not-expected'))
    return `It is ${error.problem.callStatus} already.`;
  const [issue] = error instanceof ApiProblem ? (error.problem.errors ?? []) : [];
  return issue?.message ?? wordsOf(error);
};

interface CancelProps {
  readonly call: Arrival;
  readonly close: () => void;
  readonly cancelled: () => void;
}

/** Asks for the reason, says what would come of it, and cancels. */
const Cancelling = ({ call, close, cancelled }: CancelProps) => {
  const [reason, setReason] = useState('');
  const [told, setTold] = useState<string | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const ask = async (dryRun: boolean): Promise<void> => {
    setFailure(null);
    setTold(null);
    try {
      const sent = { path: { id: call.id }, body: { reason }, query: { dryRun } };
      const { remarks } = await agentClient('portCalls.cancel', sent);
      if (!dryRun) return cancelled();
      setTold(`It would be cancelled, and say: ${remarks?.split('\n').at(-1) ?? ''}`);
    } catch (error) {
      setFailure(whyNot(error));
    }
  };
  return (
    <Stack>
      <Text size="sm">The call of {call.vessel.name}.</Text>
      <TextInput label="Reason" value={reason} onChange={(event) => setReason(event.currentTarget.value)} />
      {failure === null ? null : (
        <Alert color="red" role="alert">
          {failure}
        </Alert>
      )}
      {told === null ? null : (
        <Alert color="teal" role="status">
          {told}
        </Alert>
      )}
      <Group justify="flex-end">
        <Button variant="default" onClick={close}>
          Leave it
        </Button>
        <Button variant="default" onClick={() => void ask(true)}>
          What would come of it?
        </Button>
        <Button color="red" onClick={() => void ask(false)}>
          Cancel the call
        </Button>
      </Group>
    </Stack>
  );
};

/** The button of an expected call, for agents. */
export const CancelCall = ({ call, cancelled }: Pick<CancelProps, 'call' | 'cancelled'>) => {
  const [isOpen, setOpen] = useState(false);
  const close = (): void => setOpen(false);
  return (
    <>
      <Button size="compact-sm" variant="default" onClick={() => setOpen(true)}>
        Cancel …
      </Button>
      <Modal
        opened={isOpen}
        onClose={close}
        title="Cancel a call"
        size="lg"
        closeButtonProps={{ 'aria-label': 'Close' }}
      >
        <Cancelling
          call={call}
          close={close}
          cancelled={() => {
            close();
            cancelled();
          }}
        />
      </Modal>
    </>
  );
};
