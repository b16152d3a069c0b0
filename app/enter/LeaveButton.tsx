import { LogOut } from 'lucide-react';
import { Form } from 'react-router';
import { enterWords } from './words';

/** Ends the session of this browser. */
export function LeaveButton() {
  return (
    <Form method="post" action="/enter" reloadDocument>
      <button
        name="intent"
        value="leave"
        aria-label={enterWords.leave}
        title={enterWords.leave}
        className="flex items-center px-2 text-muted hover:text-text"
      >
        <LogOut size={15} aria-hidden />
      </button>
    </Form>
  );
}
