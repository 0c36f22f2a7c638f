// Puts a button beside each command, where the browser lets pages copy; without it they can be marked as ever.
if (navigator.clipboard) {
  for (const box of document.querySelectorAll(".copy")) {
    const button = document.createElement("button");
    button.type = "button";
    button.textContent = "Copy";
    button.setAttribute("aria-label", "Copy: " + box.querySelector("pre").textContent.trim().split("\n")[0]);
    button.addEventListener("click", async () => {
      try {
        await navigator.clipboard.writeText(box.querySelector("pre").textContent.trimEnd());
        button.textContent = "Copied";
      } catch {
        button.textContent = "Mark it and copy";
      }
      setTimeout(() => { button.textContent = "Copy"; }, 2000);
    });
    box.append(button);
  }
}
