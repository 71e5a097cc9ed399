// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import { WordsField } from "./text-numbers";

afterEach(cleanup);

it("stays the same field while what was written is saved, and loses nothing that is typed on", () => {
  const written: string[] = [];
  const field = (words: string) => <WordsField words={words} onWrite={(w) => written.push(w)} />;
  const { rerender } = render(field("Name"));
  const box = screen.getByRole<HTMLTextAreaElement>("textbox");
  const type = (value: string) => fireEvent.change(box, { target: { value } });
  type("Fjord");
  fireEvent.blur(box);
  expect(written).toEqual(["Fjord"]);
  expect(box.value).toBe("Fjord");
  // Typed on before the first words are saved.
  type("Fjords");
  rerender(field("Fjord"));
  expect(screen.getByRole("textbox")).toBe(box);
  expect(box.value).toBe("Fjords");
  fireEvent.blur(box);
  expect(written).toEqual(["Fjord", "Fjords"]);
  // What undo brings back shows again.
  rerender(field("Fjords"));
  rerender(field("Name"));
  expect(box.value).toBe("Name");
});
