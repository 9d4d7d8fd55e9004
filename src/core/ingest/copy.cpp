// SPDX-License-Identifier: GPL-3.0-or-later
#include "ingest/copy.h"

#include <fcntl.h>
#include <fmt/format.h>
#include <sys/stat.h>
#include <sys/statvfs.h>
#include <tbb/parallel_for_each.h>
#include <tbb/task_arena.h>
#include <unistd.h>

#include <algorithm>
#include <atomic>
#include <cerrno>
#include <chrono>
#include <cstring>
#include <exception>
#include <map>
#include <mutex>
#include <optional>
#include <set>
#include <utility>

#include "base/error.h"
#include "base/files.h"
#include "base/language.h"
#include "base/passing.h"
#include "base/units.h"
#include "ingest/digest.h"
#include "ingest/names.h"

namespace askcount::ingest {
namespace fs = std::filesystem;
namespace {

constexpr std::size_t kBlock = 1 << 20;
constexpr std::uint64_t kSpare = 32u << 20;  // kept free on the disk
constexpr int kInFlight = 4;                 // files at a time, at most: while one is flushed another is read

class Handle {
 public:
  explicit Handle(int fd) : fd_(fd) {}
  ~Handle() {
    if (fd_ >= 0) ::close(fd_);
  }
  Handle(const Handle&) = delete;
  int get() const { return fd_; }

 private:
  int fd_;
};

Error unreadable(const fs::path& file, int why) {
  return failed(say("{} cannot be read: {}.", file.string(), std::strerror(why)),
                say("Is the card inserted? Copy again: files already copied are skipped."));
}

Error unwritable(const fs::path& file, int why) {
  return failed(say("{} cannot be written: {}.", file.string(), std::strerror(why)),
                why == ENOSPC ? say("Make room and copy again: files already copied are skipped.")
                              : say("Copy again: files already copied are skipped."));
}

void make_folder(const fs::path& folder) {
  if (const std::error_code ec = make_folders(folder))
    throw failed(say("The folder {} cannot be made: {}.", folder.string(), ec.message()),
                 say("Name another."));
}

/// The nearest folder above that is there.
fs::path existing(fs::path folder) {
  std::error_code ec;
  folder = fs::absolute(folder, ec);
  while (!fs::is_directory(folder, ec) && folder.has_relative_path()) folder = folder.parent_path();
  return folder;
}

/// A file or folder by whatever name: links, mounts and disks that fold case give one several.
using Identity = std::pair<dev_t, ino_t>;

std::optional<Identity> identity_of(const fs::path& path) {
  struct stat there {};
  if (::stat(path.c_str(), &there) != 0) return {};
  return Identity{there.st_dev, there.st_ino};
}

/// A folder and all those it lies in, as far as they are there.
std::set<Identity> above(const fs::path& folder) {
  std::set<Identity> all;
  std::error_code ec;
  for (fs::path at = fs::canonical(existing(folder), ec); !ec; at = at.parent_path()) {
    if (const auto id = identity_of(at)) all.insert(*id);
    if (!at.has_relative_path()) break;
  }
  return all;
}

/// The card's own folder and every folder below it that holds something.
std::set<Identity> folders_of(const fs::path& card, const std::vector<Planned>& files) {
  std::set<fs::path> paths{card};
  for (const Planned& f : files) {
    const fs::path rest = f.from.lexically_relative(card).parent_path();
    if (rest.empty() || *rest.begin() == "..") continue;
    fs::path at = card;
    for (const fs::path& part : rest) paths.insert(at /= part);
  }
  std::set<Identity> all;
  for (const fs::path& p : paths)
    if (const auto id = identity_of(p)) all.insert(*id);
  return all;
}

bool meet(const std::set<Identity>& a, const std::set<Identity>& b) {
  return std::any_of(a.begin(), a.end(), [&](const Identity& id) { return b.contains(id); });
}

/// Throws where two of the places are one, or one lies in another, by whatever names.
void require_apart(const CopyOrder& order, const std::vector<fs::path>& targets,
                   const std::vector<Planned>& files) {
  for (const fs::path& target : targets) {
    const std::set<Identity> over = above(target);
    const auto own = identity_of(target);
    for (const fs::path& card : order.cards)
      if (meet(over, folders_of(card, files)) || (own && above(card).contains(*own)))
        throw bad_input(say("One of {} and the card {} is inside the other.", target.string(), card.string()),
                        say("Copy to another folder."));
  }
  if (targets.size() < 2) return;
  std::error_code ec;
  const fs::path a = fs::weakly_canonical(fs::absolute(targets[0], ec), ec),
                 b = fs::weakly_canonical(fs::absolute(targets[1], ec), ec);
  const auto below = [](const fs::path& inner, const fs::path& outer) {
    const fs::path rest = inner.lexically_relative(outer);
    return !rest.empty() && *rest.begin() != "..";
  };
  const auto first = identity_of(a), second = identity_of(b);
  if (below(a, b) || below(b, a) || (first && above(b).contains(*first)) ||
      (second && above(a).contains(*second)))
    throw bad_input(say("One of {} and {} is inside the other.", order.to.string(), order.also.string()),
                    say("Name two folders, better on two disks."));
}

/// Room on the disks of both targets, before anything is written.
void require_room(const std::vector<Planned>& files, const std::vector<fs::path>& targets) {
  std::map<dev_t, std::pair<std::uint64_t, fs::path>> wanted;
  for (const fs::path& target : targets) {
    const fs::path folder = existing(target);
    struct stat there {};
    if (::stat(folder.c_str(), &there) != 0) throw unwritable(folder, errno);
    auto& [bytes, where] = wanted[there.st_dev];
    where = folder;
    std::error_code ec;
    for (const Planned& f : files)
      if (const auto size = fs::file_size(target / f.name, ec); ec || size != f.bytes) bytes += f.bytes;
  }
  for (const auto& [device, want] : wanted) {
    struct statvfs room {};
    if (::statvfs(want.second.c_str(), &room) != 0) throw unwritable(want.second, errno);
    const std::uint64_t free = std::uint64_t{room.f_bavail} * room.f_frsize;
    if (want.first + kSpare > free)
      throw bad_input(say("There is not enough room at {}: {} MB are to be copied, {} MB are free.",
                          want.second.string(), (want.first + kSpare) / 1000000 + 1, free / 1000000),
                      say("Make room, or name another disk; nothing was written."));
  }
}

/// A target's file under its passing name.
struct Part {
  TemporaryFile file;
  Handle out;
  explicit Part(const fs::path& target)
      : file({target, FileKind::Frame}), out(::open(file.path().c_str(), O_WRONLY | O_CLOEXEC | O_NOFOLLOW)) {
    if (out.get() < 0) throw unwritable(target, errno);
  }
  void write(std::string_view bytes) const {
    if (!write_all(out.get(), bytes)) throw unwritable(file.target(), errno);
  }
};

/// One copy under way.
class Copier {
 public:
  Copier(const CopyOrder& order, std::vector<Planned> files, const Told& told, const std::stop_token& stop)
      : files_(std::move(files)), told_(told), stop_(stop) {
    targets_.push_back(order.to);
    if (!order.also.empty()) targets_.push_back(order.also);
    done_.resize(files_.size());
    progress_.files = files_.size();
    for (const Planned& f : files_) progress_.bytes += f.bytes;
  }

  /// Copies all; the first trouble ends it.
  void run() {
    std::vector<std::size_t> numbers(files_.size());
    for (std::size_t i = 0; i < numbers.size(); ++i) numbers[i] = i;
    std::set<fs::path> folders;
    for (const fs::path& target : targets_)
      for (const Planned& f : files_) folders.insert((target / f.name).parent_path());
    for (const fs::path& folder : folders) {
      make_folder(folder);
      remove_passing_folders(folder);
    }
    tbb::task_arena arena(std::min(kInFlight, tbb::this_task_arena::max_concurrency()));
    arena.execute([&] {
      tbb::parallel_for_each(numbers.begin(), numbers.end(), [&](std::size_t i) {
        if (stop_.stop_requested() || broken_) return;
        try {
          copy_one(i);
        } catch (...) {
          // What follows from it (others that stop) is not what is told.
          if (!broken_.exchange(true)) trouble_ = std::current_exception();
        }
      });
    });
    std::set<fs::path> named;
    for (fs::path folder : folders)
      for (; named.insert(folder).second &&
             std::find(targets_.begin(), targets_.end(), folder) == targets_.end();
           folder = folder.parent_path())
        sync_names(folder);
    for (const fs::path& target : targets_) {
      sync_names(target);
      sync_names(fs::absolute(target).parent_path());
    }
    if (trouble_) std::rethrow_exception(trouble_);
  }

  /// A second look at everything: the card as it was, each copy in its place.
  bool all_in_place() const {
    for (std::size_t i = 0; i < files_.size(); ++i) {
      if (!done_[i]) return false;
      std::error_code ec;
      if (fs::file_size(files_[i].from, ec) != done_[i]->bytes || ec) return false;
      for (const fs::path& target : targets_)
        if (fs::file_size(target / done_[i]->name, ec) != done_[i]->bytes || ec) return false;
    }
    return true;
  }

  std::vector<Copied> whole() const {
    std::vector<Copied> list;
    for (const auto& d : done_)
      if (d) list.push_back(*d);
    return list;
  }

 private:
  void copy_one(std::size_t i) {
    const Planned& f = files_[i];
    const Handle in(::open(f.from.c_str(), O_RDONLY | O_CLOEXEC));
    if (in.get() < 0) throw unreadable(f.from, errno);
    struct stat before {};
    ::fstat(in.get(), &before);
    ::posix_fadvise(in.get(), 0, 0, POSIX_FADV_SEQUENTIAL);
    Copied c;
    c.from = f.from;
    c.bytes = static_cast<std::uint64_t>(before.st_size);
    c.name = place_for(f, in.get(), c);
    std::vector<std::unique_ptr<Part>> parts;
    for (const fs::path& target : targets_) {
      std::error_code ec;
      if (!fs::exists(fs::symlink_status(target / c.name, ec)))
        parts.push_back(std::make_unique<Part>(target / c.name));
    }
    c.there_already = parts.empty();
    if (c.sha256.empty() || !parts.empty()) {
      const std::string read = read_into(f.from, in.get(), parts, c.bytes);
      if (!c.sha256.empty() && c.sha256 != read)
        throw failed(say("{} reads differently the second time.", f.from.string()),
                     say("Do not empty the card; try another reader."));
      c.sha256 = read;
    }
    struct stat after {};
    if (::fstat(in.get(), &after) != 0 || after.st_size != before.st_size ||
        after.st_mtim.tv_sec != before.st_mtim.tv_sec)
      throw failed(say("{} changed while it was copied.", f.from.string()),
                   say("Copy again when nothing writes to it."));
    for (const auto& part : parts) {
      const timespec times[] = {before.st_atim, before.st_mtim};
      ::futimens(part->out.get(), times);
      if (::fsync(part->out.get()) != 0) throw unwritable(part->file.target(), errno);
      if (digest_on_disk(part->file.path()) != c.sha256)
        throw failed(
            say("{} reads back differently from what was on the card.", part->file.target().string()),
            say("The disk or its cable is not to be trusted; copy to another. Do not empty the card."));
      part->file.put_in_place(Flush::No);  // its content is on the disk; its name follows with all others
    }
    require_two(c, i);
    // From the device, not from memory: a reader that errs now and then reads it right twice, or is caught.
    if (digest_on_disk(f.from) != c.sha256)
      throw failed(say("{} reads differently the second time.", f.from.string()),
                   say("Do not empty the card; try another reader."));
    const std::lock_guard lock(mutex_);
    done_[i] = std::move(c);
    ++progress_.files_done;
    if (told_) told_(progress_);
  }

  /// Throws where a copy is the file itself, or both copies are one file, seen by two names.
  void require_two(const Copied& c, std::size_t i) const {
    std::set<Identity> seen;
    if (const auto own = identity_of(files_[i].from)) seen.insert(*own);
    for (const fs::path& target : targets_) {
      const auto id = identity_of(target / c.name);
      if (!id || seen.insert(*id).second) continue;
      throw bad_input(
          say("{} is the same file as another it was to be copied from or to.", (target / c.name).string()),
          say("Copy to another folder; do not empty the card."));
    }
  }

  /// The name this file gets: its own, unless a different file has it in a target. Where an equal one is
  /// there its digest is put into `c`.
  fs::path place_for(const Planned& f, int in, Copied& c) {
    std::string digest;
    const auto own = [&] {
      if (digest.empty()) {
        std::vector<std::unique_ptr<Part>> none;
        digest = read_into(f.from, in, none, c.bytes);
        if (::lseek(in, 0, SEEK_SET) != 0) throw unreadable(f.from, errno);
      }
      return digest;
    };
    for (int n = 1;; ++n) {
      fs::path name = with_number(f.name, n);
      bool fits = true;
      for (const fs::path& target : targets_) {
        const fs::path there = target / name;
        std::error_code ec;
        const fs::file_status status = fs::symlink_status(there, ec);
        if (!fs::exists(status)) continue;
        fits = fits && fs::is_regular_file(status) && fs::file_size(there, ec) == c.bytes && !ec &&
               digest_on_disk(there) == own();
      }
      if (n > 1) {
        const std::lock_guard lock(mutex_);
        fits = fits && given_.insert(name.string()).second;
      }
      if (!fits) continue;
      c.renamed = n > 1;
      c.sha256 = digest;
      return name;
    }
  }

  /// Reads all of the file once, into every part, and returns its digest.
  std::string read_into(const fs::path& file, int in, const std::vector<std::unique_ptr<Part>>& parts,
                        std::uint64_t bytes) {
    Digest digest;
    std::vector<char> block(kBlock);
    std::uint64_t total = 0;
    ssize_t n = 0;
    while ((n = ::read(in, block.data(), block.size())) != 0) {
      if (n < 0 && errno == EINTR) continue;
      if (n < 0) throw unreadable(file, errno);
      if (stop_.stop_requested() || broken_) throw cancelled(say("Copying was stopped."));
      digest.add(block.data(), static_cast<std::size_t>(n));
      for (const auto& part : parts) part->write({block.data(), static_cast<std::size_t>(n)});
      total += static_cast<std::uint64_t>(n);
      const std::lock_guard lock(mutex_);
      progress_.bytes_done = std::min(progress_.bytes, progress_.bytes_done + static_cast<std::uint64_t>(n));
      if (told_) told_(progress_);
    }
    if (total != bytes)
      throw failed(say("{} ended after {} of {} bytes.", file.string(), total, bytes),
                   say("Is the card inserted?"));
    return digest.text();
  }

  std::vector<Planned> files_;
  const Told& told_;
  const std::stop_token& stop_;
  std::vector<fs::path> targets_;
  std::vector<std::optional<Copied>> done_;
  std::set<std::string> given_;
  CopyProgress progress_;
  std::atomic<bool> broken_ = false;
  std::exception_ptr trouble_;  // the first, and what is told
  std::mutex mutex_;
};

/// A name as a line of sha256sum has it.
std::string line_of(const std::string& sha256, const std::string& name) {
  std::string safe;
  for (const char c : name) safe += c == '\\' ? "\\\\" : c == '\n' ? "\\n" : std::string(1, c);
  return (safe == name ? "" : "\\") + sha256 + "  " + safe + "\n";
}

/// Writes what is whole over what an earlier copy wrote down: lines of other files stay.
fs::path write_manifest(const fs::path& target, const std::vector<Copied>& files) {
  fs::path file = target / kManifest;
  std::map<std::string, std::string> lines;  // by name, with its remark before it
  std::error_code ec;
  if (fs::exists(file, ec) && written_kind(file) == FileKind::Manifest) {
    std::string remark;
    const std::string text = read_file(file);
    for (std::size_t from = 0; from < text.size();) {
      const std::size_t end = std::min(text.find('\n', from), text.size());
      const std::string line = text.substr(from, end - from);
      if (line.starts_with("# was "))
        remark = line + "\n";
      else if (!line.starts_with('#') && line.size() > 66)
        lines[line.substr(line.find("  ") + 2)] = std::exchange(remark, {}) + line + "\n";
      from = end + 1;
    }
  }
  for (const Copied& c : files) {
    const std::string name = c.name.generic_string(), line = line_of(c.sha256, name);
    const std::string was =
        c.from.filename() == c.name.filename() ? "" : fmt::format("# was {}\n", c.from.generic_string());
    lines[line.substr(line.find("  ") + 2, line.size() - line.find("  ") - 3)] = was + line;
  }
  std::string text = "# Copied by Ask Count; check with: sha256sum -c " + std::string(kManifest) + "\n";
  for (const auto& [name, line] : lines) text += line;
  write_file_atomically({file, FileKind::Manifest}, text);
  return file;
}

}  // namespace

CopyOutcome copy(const CopyOrder& order, const Told& told, const std::stop_token& stop) {
  const auto began = std::chrono::steady_clock::now();
  CopyOutcome outcome;
  for (const fs::path& card : order.cards)
    if (!fs::is_regular_file(card)) require_folder(card);
  std::vector<fs::path> targets{order.to};
  if (!order.also.empty()) targets.push_back(order.also);
  std::vector<Planned> files = plan_names(order, outcome.unread);
  require_apart(order, targets, files);
  require_room(files, targets);
  for (const fs::path& target : targets) make_folder(target);
  for (const fs::path& target : targets) check_output({target / kManifest, FileKind::Manifest});
  Copier copier(order, std::move(files), told, stop);
  const auto write_down = [&] {
    outcome.files = copier.whole();
    if (!outcome.files.empty())
      for (const fs::path& target : targets)
        outcome.manifests.push_back(write_manifest(target, outcome.files));
  };
  try {
    copier.run();
  } catch (...) {
    try {
      write_down();
    } catch (const Error&) {  // what broke it off is what is said
    }
    throw;
  }
  write_down();
  if (stop.stop_requested())
    throw cancelled(say("Copying was stopped after {}; copy again to go on.",
                        counted(static_cast<long long>(outcome.files.size()), "{} file", "{} files")));
  for (const Copied& c : outcome.files) outcome.bytes += c.bytes;
  outcome.checked_twice = outcome.unread.empty() && copier.all_in_place();
  outcome.seconds = std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count();
  return outcome;
}

}  // namespace askcount::ingest
