import { type ImportReport, problem, token, Unreached } from "../api/client";

/** Sends a file, telling how far it has come (0 to 1). The browser streams it from disk. */
export function upload(file: File, progress: (part: number) => void): Promise<ImportReport> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", "/api/imports");
    request.responseType = "json";
    request.setRequestHeader("X-XSRF-TOKEN", token());
    request.upload.onprogress = (e) => progress(e.loaded / e.total);
    request.onerror = () => reject(new Unreached());
    request.onload = () =>
      request.status === 201 ? resolve(request.response) : reject(problem(request.status, request.response));
    const body = new FormData();
    body.append("file", file);
    request.send(body);
  });
}
