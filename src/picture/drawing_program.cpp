#include "drawing_program.hpp"

#include <fcntl.h>
#include <spawn.h>
#include <sys/mman.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cerrno>
#include <cstdlib>

extern char** environ;

namespace arvek::detail {

bool has_program(const std::string& name) {
    const char* path = std::getenv("PATH");
    std::string_view folders = path != nullptr ? path : "/usr/local/bin:/usr/bin:/bin";
    for (;;) {
        const auto colon = folders.find(':');
        const std::string folder(folders.substr(0, colon));
        if (::access(((folder.empty() ? "." : folder) + "/" + name).c_str(), X_OK) == 0) return true;
        if (colon == std::string_view::npos) return false;
        folders.remove_prefix(colon + 1);
    }
}

bool draw_with(const std::string& program, const std::vector<std::string>& arguments, std::string_view input,
               const OutputFile& output) {
    const int in = ::memfd_create("input", MFD_CLOEXEC);
    if (in < 0) return false;
    bool done = true;
    for (std::string_view left = input; done && !left.empty();) {
        const ssize_t part = ::write(in, left.data(), left.size());
        if (part < 0 && errno == EINTR) continue;
        done = part > 0;
        if (done) left.remove_prefix(static_cast<std::size_t>(part));
    }
    done = done && ::lseek(in, 0, SEEK_SET) == 0;
    if (done) {
        std::vector<char*> argv{const_cast<char*>(program.c_str())};
        for (const std::string& argument : arguments) argv.push_back(const_cast<char*>(argument.c_str()));
        argv.push_back(nullptr);
        posix_spawn_file_actions_t files;
        posix_spawn_file_actions_init(&files);
        posix_spawn_file_actions_adddup2(&files, in, STDIN_FILENO);
        posix_spawn_file_actions_adddup2(&files, output.descriptor(), STDOUT_FILENO);
        posix_spawn_file_actions_addopen(&files, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
        pid_t child = 0;
        done = ::posix_spawnp(&child, program.c_str(), &files, nullptr, argv.data(), environ) == 0;
        posix_spawn_file_actions_destroy(&files);
        if (done) {
            int status = 0;
            while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
            }
            done = WIFEXITED(status) && WEXITSTATUS(status) == 0;
        }
    }
    ::close(in);
    return done;
}

}  // namespace arvek::detail
