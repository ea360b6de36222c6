import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import type { Operation } from "../../api/client";
import { Answer } from "../usePending";
import { useRuleCalled } from "../useCalled";
import { useLiveOperation } from "../useOperation";

interface Props {
  block: string;
  title: string;
  field: string;
  label: string;
  value: string;
  via: string; // the document that placed the block
  done: (title: string, operation: Operation) => void;
  close: () => void;
}

/** The places to which a value of one page can be moved, where others get it too, each
 *  with what that would change. */
export function MoveValue({ block, title, field, label, value, via, done, close }: Props) {
  const [key, setKey] = useState(field);
  const called = useRuleCalled();
  const rule = via.startsWith("rules/") ? via.slice("rules/".length, -".yaml".length) : "";
  const base = { block, field, value };
  return (
    <div className="move-value" role="group" aria-label={`Where to keep ${label}`}>
      <p>
        Where to keep{" "}
        <b>
          {label}: {value || "nothing"}
        </b>{" "}
        <Button size="small" onClick={close}>
          Leave it here
        </Button>
      </p>
      <Way
        words={`The default of ${title}; pages that showed the old one keep it`}
        operation={{ operation: "make-default", ...base, keep: true }}
        done={done}
      />
      <Way
        words={`The default of ${title}; pages that showed the old one follow`}
        operation={{ operation: "make-default", ...base, keep: false }}
        done={done}
      />
      {rule && (
        <Way
          words={`What the rule ${called(rule)} sets`}
          operation={{ operation: "raise-to-rule", rule, field, value }}
          done={done}
        />
      )}
      <Way
        words={
          <>
            A value of every page that has it,{" "}
            <TextField
              size="small"
              label="page."
              value={key}
              onChange={(e) => setKey(e.target.value)}
              slotProps={{ htmlInput: { spellCheck: false } }}
            />
          </>
        }
        operation={key ? { operation: "raise-to-page", ...base, to: key } : null}
        done={done}
      />
    </div>
  );
}

function Way({
  words,
  operation,
  done,
}: {
  words: React.ReactNode;
  operation: Operation | null;
  done: Props["done"];
}) {
  const live = useLiveOperation(operation, done);
  return (
    <form {...live.form()}>
      <span>{words}</span>
      <span role="status" className="soft">
        <Answer error={live.error} operated={live.operated} />
      </span>
      <Button type="submit" size="small" variant="outlined" disabled={!live.savable}>
        Move it there
      </Button>
    </form>
  );
}
