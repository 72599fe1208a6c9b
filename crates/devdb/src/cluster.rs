//! A Galera cluster of private servers on loopback: each node has all the data, and any of them may be killed.

use std::fs;
use std::path::{Path, PathBuf};
use std::process::Command;

use crate::{DevDb, DevDbError, doing, free_port, install, is_root};

/// Debian's package galera-4.
const PROVIDER: &str = "/usr/lib/galera/libgalera_smm.so";

/// Ports of one node.
#[derive(Clone, Copy, Debug)]
struct Ports {
    /// For statements.
    sql: u16,
    /// For the other nodes.
    group: u16,
    /// For the changes that a node missed while it was away.
    missed: u16,
    /// For everything, where a node has nothing yet.
    everything: u16,
}

/// Nodes that hold the same data. They stop when this is dropped.
#[derive(Debug)]
pub struct Cluster {
    home: PathBuf,
    ports: Vec<Ports>,
    nodes: Vec<Option<DevDb>>,
}

impl Cluster {
    /// Starts so many nodes below `home`: the first alone, the others join it.
    ///
    /// # Errors
    ///
    /// [`DevDbError`] with what to do.
    pub fn start(home: &Path, count: usize) -> Result<Self, DevDbError> {
        if !Path::new(PROVIDER).exists() {
            return Err(DevDbError::NotStarted(format!(
                "{PROVIDER} is missing: run `apt-get install galera-4`"
            )));
        }
        let ports = || {
            Ok(Ports {
                sql: free_port()?,
                group: free_port()?,
                missed: free_port()?,
                everything: free_port()?,
            })
        };
        let ports: Vec<Ports> = (0..count).map(|_| ports()).collect::<Result<_, DevDbError>>()?;
        let mut cluster = Self { home: home.to_owned(), ports, nodes: Vec::new() };
        for node in 0..count {
            let started = cluster.start_node(node, node == 0)?;
            cluster.nodes.push(Some(started));
        }
        Ok(cluster)
    }

    fn home_of(&self, node: usize) -> PathBuf {
        self.home.join(format!("node-{node}"))
    }

    fn start_node(&self, node: usize, is_first: bool) -> Result<DevDb, DevDbError> {
        let home = self.home_of(node);
        let data = home.join("data");
        if !data.join("mysql").is_dir() {
            fs::create_dir_all(&home).map_err(doing(format!("making {}", home.display())))?;
            install(&data)?;
        }
        let mut options = self.options(node);
        // What is sent to a node that has nothing is read by a daemon that root may not be.
        if is_root() {
            let owned = Command::new("chown").args(["-R", "mysql:"]).arg(&home).status();
            owned.map_err(doing("giving a node its folder"))?;
            options.push("--user=mysql".to_owned());
        }
        if is_first {
            options.push("--wsrep-new-cluster".to_owned());
        }
        DevDb::start_with(&home, self.ports[node].sql, &options)
    }

    fn options(&self, node: usize) -> Vec<String> {
        let own = self.ports[node];
        let at = |port: u16| format!("127.0.0.1:{port}");
        let all: Vec<String> = self.ports.iter().map(|ports| at(ports.group)).collect();
        vec![
            "--wsrep-on=ON".to_owned(),
            format!("--wsrep-provider={PROVIDER}"),
            "--wsrep-cluster-name=yardwand".to_owned(),
            format!("--wsrep-cluster-address=gcomm://{}", all.join(",")),
            format!("--wsrep-node-name=node-{node}"),
            format!("--wsrep-node-address={}", at(own.group)),
            format!(
                "--wsrep-provider-options=base_host=127.0.0.1;base_port={0};gmcast.listen_addr=tcp://127.0.0.1:{0};ist.recv_addr={1}",
                own.group,
                at(own.missed)
            ),
            "--wsrep-sst-method=rsync".to_owned(),
            format!("--wsrep-sst-receive-address={}", at(own.everything)),
            "--binlog-format=ROW".to_owned(),
            "--innodb-autoinc-lock-mode=2".to_owned(),
            // Whoever reads on one node what was written on another one sees it.
            "--wsrep-sync-wait=7".to_owned(),
        ]
    }

    /// A node that is up.
    ///
    /// # Panics
    ///
    /// Where it was killed.
    pub fn node(&self, node: usize) -> &DevDb {
        self.nodes[node].as_ref().unwrap_or_else(|| panic!("node {node} was killed"))
    }

    /// How many nodes it has, up or not.
    pub fn count(&self) -> usize {
        self.ports.len()
    }

    /// Kills a node as a power failure does.
    ///
    /// # Errors
    ///
    /// [`DevDbError::Io`] where it cannot be found.
    pub fn kill(&mut self, node: usize) -> Result<(), DevDbError> {
        let home = self.home_of(node);
        self.nodes[node].take().map_or(Ok(()), |up| up.kill(&home))
    }

    /// Starts a node that was killed; it catches up with the others.
    ///
    /// # Errors
    ///
    /// [`DevDbError`] where it does not come up.
    pub fn bring_back(&mut self, node: usize) -> Result<(), DevDbError> {
        self.nodes[node] = Some(self.start_node(node, false)?);
        Ok(())
    }
}
