import { expect, test } from "vitest";
import { nameIn } from "./MakePdf";

test("a file is named as the server says, in any script", () => {
  expect(nameIn('attachment; filename="Signal-box-schedule.pdf"')).toBe("Signal-box-schedule.pdf");
  expect(nameIn(`attachment; filename="schedule.pdf"; filename*=UTF-8''%F0%9F%8F%A0%20schedule.pdf`)).toBe(
    "🏠 schedule.pdf",
  );
  expect(nameIn("")).toBe("lumbek.pdf");
});
