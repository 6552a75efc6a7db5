#include "arvek/arena/files.hpp"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <filesystem>
#include <utility>

#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

/// A descriptor that is closed at the end.
struct Descriptor {
    int number;
    explicit Descriptor(int opened) : number(opened) {}
    ~Descriptor() {
        if (number >= 0) ::close(number);
    }
    Descriptor(const Descriptor&) = delete;
    Descriptor& operator=(const Descriptor&) = delete;
};

std::string folder_of(const std::string& path) {
    const auto slash = path.rfind('/');
    return slash == std::string::npos ? "." : slash == 0 ? "/" : path.substr(0, slash);
}

}  // namespace

std::string read_text_file(const std::string& path, std::size_t most_bytes) {
    if (path.find('\0') != std::string::npos)
        throw InputError("file", "the name has a zero byte in it", "a file's name");
    struct stat kind {};
    if (::stat(path.c_str(), &kind) != 0)
        throw InputError(path, errno == ENOENT || errno == ENOTDIR ? "there is no such file" : std::strerror(errno),
                         "a readable file");
    if (S_ISDIR(kind.st_mode)) throw InputError(path, "it is a folder", "a readable file");
    if (!S_ISREG(kind.st_mode)) throw InputError(path, "it is a pipe or a device", "a file on a disk");
    const Descriptor file(::open(path.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC | O_NOCTTY));
    // It may have become another since.
    if (file.number < 0 || ::fstat(file.number, &kind) != 0 || !S_ISREG(kind.st_mode))
        throw InputError(path, "the file cannot be read", "a readable file");
    const auto too_large = [&] {
        throw InputError(path, "the file is larger than " + std::to_string(most_bytes) + " bytes", "a smaller one");
    };
    if (kind.st_size > 0 && static_cast<std::uintmax_t>(kind.st_size) > most_bytes) too_large();
    std::string content;
    content.reserve(static_cast<std::size_t>(kind.st_size));
    char block[1 << 14];
    for (;;) {
        const ssize_t got = ::read(file.number, block, sizeof block);
        if (got < 0 && errno == EINTR) continue;
        if (got < 0) throw InputError(path, "the file cannot be read", "a readable file");
        if (got == 0) return content;
        content.append(block, static_cast<std::size_t>(got));
        if (content.size() > most_bytes) too_large();
    }
}

OutputFile::OutputFile(std::string path) : path_(std::move(path)) {
    if (path_.empty() || path_.find('\0') != std::string::npos)
        throw InputError("file", "it has no name", "a file's name");
    std::error_code error;
    const auto kind = std::filesystem::status(path_, error).type();
    if (kind == std::filesystem::file_type::directory) throw InputError(path_, "it is a folder", "the name of a file");
    if (kind != std::filesystem::file_type::not_found && kind != std::filesystem::file_type::regular &&
        kind != std::filesystem::file_type::none)
        throw InputError(path_, "it is a pipe or a device", "the name of a file");
    const std::string folder = folder_of(path_);
    if (kind == std::filesystem::file_type::regular && ::access(path_.c_str(), W_OK) != 0) fail();
#ifdef O_TMPFILE
    descriptor_ = ::open(folder.c_str(), O_TMPFILE | O_RDWR | O_CLOEXEC, 0644);
#endif
    if (descriptor_ < 0) {
        temporary_ = path_ + ".XXXXXX";
        descriptor_ = ::mkostemp(temporary_.data(), O_CLOEXEC);
        if (descriptor_ < 0) fail();
        (void)::fchmod(descriptor_, 0644);
    }
}

OutputFile::~OutputFile() {
    if (descriptor_ >= 0) ::close(descriptor_);
    if (!temporary_.empty()) ::unlink(temporary_.c_str());
}

void OutputFile::fail() const {
    throw InputError(path_, "the file cannot be written",
                     "a file in a folder that is there, may be written to and has room");
}

void OutputFile::write(std::string_view text) {
    while (!text.empty()) {
        const ssize_t part = ::write(descriptor_, text.data(), text.size());
        if (part < 0 && errno == EINTR) continue;
        if (part <= 0) fail();
        text.remove_prefix(static_cast<std::size_t>(part));
    }
}

void OutputFile::commit() {
    if (::fsync(descriptor_) != 0 && errno != EINVAL) fail();
    if (temporary_.empty()) {
        // A file without a name is given one beside the place first: only a rename puts it in the place of another.
        const std::string source = "/proc/self/fd/" + std::to_string(descriptor_);
        for (int attempt = 0; temporary_.empty(); ++attempt) {
            const std::string beside = path_ + "." + std::to_string(::getpid()) + "-" + std::to_string(attempt);
            if (::linkat(AT_FDCWD, source.c_str(), AT_FDCWD, beside.c_str(), AT_SYMLINK_FOLLOW) == 0)
                temporary_ = beside;
            else if (errno != EEXIST || attempt > 100)
                fail();
        }
    }
    if (::rename(temporary_.c_str(), path_.c_str()) != 0) fail();
    temporary_.clear();
}

void write_file(const std::string& path, std::string_view text) {
    OutputFile file(path);
    file.write(text);
    file.commit();
}

}  // namespace arvek
