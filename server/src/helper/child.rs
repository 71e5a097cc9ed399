//! A helper that runs.

use super::held::held;
use super::model::{Answer, Asked, HelperConfig, HelperError, JOB, TOKEN};
use std::io::{BufRead, BufReader, Error, ErrorKind, Write};
use std::process::{Child, ChildStdin, Command, Stdio};
use std::sync::Mutex;
use ureq::Agent;
use uuid::Uuid;

pub(super) struct Running {
    /// Which of all that were started.
    pub number: u64,
    child: Mutex<Child>,
    pid: u32,
    /// Held open: when it closes, the helper ends.
    _input: ChildStdin,
    address: String,
    token: String,
    /// Why it was ended.
    why: Mutex<Option<HelperError>>,
}

impl Running {
    /// Starts one and waits until it answers.
    pub fn start(config: &HelperConfig, number: u64) -> std::io::Result<Self> {
        let token = Uuid::new_v4().to_string();
        let mut command = Command::new(&config.program);
        command.arg("helper").arg("--data").arg(&config.data).arg("--server").arg(config.server.to_string());
        if config.can_be_harmed {
            command.arg("--can-be-harmed");
        }
        let mut child = command.stdin(Stdio::piped()).stdout(Stdio::piped()).spawn()?;
        let gone = |what: &str| Error::new(ErrorKind::BrokenPipe, what.to_string());
        let mut input = child.stdin.take().ok_or_else(|| gone("it has no input"))?;
        writeln!(input, "{token}")?;
        let output = child.stdout.take().ok_or_else(|| gone("it has no output"))?;
        let mut address = String::new();
        BufReader::new(output).read_line(&mut address)?;
        let address = address.trim().to_string();
        if address.is_empty() {
            let _ = child.kill();
            let _ = child.wait();
            return Err(gone("it ended at once"));
        }
        let pid = child.id();
        Ok(Self { number, child: Mutex::new(child), pid, _input: input, address, token, why: Mutex::default() })
    }

    pub fn is_alive(&self) -> bool {
        held(&self.why).is_none() && matches!(held(&self.child).try_wait(), Ok(None))
    }

    /// Memory that it uses, bytes.
    pub fn memory(&self) -> Option<u64> {
        let text = std::fs::read_to_string(format!("/proc/{}/statm", self.pid)).ok()?;
        Some(text.split_whitespace().nth(1)?.parse::<u64>().ok()? * PAGE)
    }

    /// Ends it, where it has not ended, and says why it did: the first reason holds.
    pub fn end(&self, why: HelperError) -> HelperError {
        let why = held(&self.why).get_or_insert(why).clone();
        let mut child = held(&self.child);
        let _ = child.kill();
        let _ = child.wait();
        why
    }

    pub fn ask(&self, agent: &Agent, asked: &Asked) -> Result<Answer, ureq::Error> {
        let mut request = ureq::http::Request::builder()
            .method(asked.method.as_str())
            .uri(format!("http://{}{}", self.address, asked.path))
            .header(TOKEN, &self.token)
            .header(JOB, &asked.job);
        for (name, value) in &asked.headers {
            request = request.header(name, value);
        }
        let mut answer = agent.run(request.body(&asked.body[..])?)?;
        let headers = answer.headers().iter().map(|(n, v)| (n.as_str().to_string(), v.as_bytes().to_vec())).collect();
        let status = answer.status().as_u16();
        let body = answer.body_mut().with_config().limit(MOST_ANSWERED).read_to_vec()?;
        Ok(Answer { status, headers, body })
    }

    pub fn tell_to_stop(&self, agent: &Agent, job: &str) {
        let url = format!("http://{}/api/jobs/{job}", self.address);
        let _ = agent.delete(url).header(TOKEN, &self.token).call();
    }
}

impl Drop for Running {
    fn drop(&mut self) {
        self.end(HelperError::Died);
    }
}

/// Largest answer, bytes: an STL of millions of triangles.
const MOST_ANSWERED: u64 = 2 << 30;
/// Bytes of a page of memory, on every machine that Linux calls x86-64 or that has not chosen otherwise.
const PAGE: u64 = 4096;
