import { Button, TextField } from "@mui/material";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { ask, sentenceOf, type Schemas } from "../../api/client";
import { t, when } from "../../words/words";
import type { FootnoteProps } from "./footnoteProps";
import { NOTED_MS } from "../../text/memory";

/** Questions about the entry and their answers, which stay with it for all languages. */
export function QuestionsNote({ store, entry, me, onSay }: FootnoteProps) {
  const queries = useQueryClient();
  const questions = useQuery({
    queryKey: ["questions", entry],
    queryFn: ({ signal }) => ask<Schemas["Question"][]>(`/api/entries/${entry}/questions`, { signal }),
    staleTime: NOTED_MS,
  });
  const send = async (path: string, method: "POST" | "PUT", text: string): Promise<boolean> => {
    try {
      await ask(path, { method, json: { text } });
      await Promise.all([queries.invalidateQueries({ queryKey: ["questions", entry] }), store.refresh([entry])]);
      return true;
    } catch (failure) {
      onSay(sentenceOf(failure));
      return false;
    }
  };
  if (questions.isError) return <p className="wrong">{sentenceOf(questions.error)}</p>;
  return (
    <>
      {questions.data?.map((question) => (
        <div key={question.id} className="question">
          <p>
            <span className={question.answer === undefined ? "open" : "soft"}>{question.asker}:</span> {question.text}{" "}
            <small className="soft">{when(question.askedAt)}</small>
          </p>
          {question.answer !== undefined ? (
            <p className="answer">
              <span className="soft">{question.answerer}:</span> {question.answer}
            </p>
          ) : me.coordinator ? (
            <Say
              key={`answer ${question.id}`}
              label={t("questions.answer")}
              onSay={(text) => send(`/api/questions/${question.id}/answer`, "PUT", text)}
            />
          ) : (
            <p className="soft">{t("questions.waiting")}</p>
          )}
        </div>
      ))}
      <Say
        key={`ask ${entry}`}
        label={t("questions.ask")}
        onSay={(text) => send(`/api/entries/${entry}/questions`, "POST", text)}
      />
    </>
  );
}

/** A button that opens a line to write in; what was written stays until it has been sent. */
function Say({ label, onSay }: { label: string; onSay: (text: string) => Promise<boolean> }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  if (!open) {
    return (
      <Button size="small" onClick={() => setOpen(true)}>
        {label} …
      </Button>
    );
  }
  return (
    <form
      className="reason"
      onSubmit={(event) => {
        event.preventDefault();
        void onSay(text).then((sent) => {
          if (!sent) return;
          setText("");
          setOpen(false);
        });
      }}
    >
      <TextField
        size="small"
        multiline
        autoFocus
        fullWidth
        label={label}
        value={text}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Escape") setOpen(false);
          if (event.key === "Enter" && !event.shiftKey && !event.nativeEvent.isComposing) {
            event.preventDefault();
            event.currentTarget.closest("form")?.requestSubmit();
          }
        }}
      />
      <Button size="small" type="submit" variant="contained" disabled={text.trim() === ""}>
        {label}
      </Button>
    </form>
  );
}
