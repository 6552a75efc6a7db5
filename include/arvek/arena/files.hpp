#pragma once
// Files: read whole, but never what would not end; written whole or not at all.

#include <cstddef>
#include <string>
#include <string_view>

namespace arvek {

/// What a regular file holds. Throws InputError where there is none of that name, it is a folder, a pipe or a device,
/// larger than `most_bytes`, or cannot be read; nothing of it is read before its kind and size are known.
std::string read_text_file(const std::string& path, std::size_t most_bytes = 4'000'000);

/// A file that is to be written. It is opened at once, so that what cannot be written is known before the work whose
/// result it takes. What is written has no name until commit() gives it one; without, or when the process is killed,
/// nothing is left, and an earlier file of the name stays as it was.
class OutputFile {
   public:
    /// Throws InputError when a file of that name cannot be written.
    explicit OutputFile(std::string path);
    ~OutputFile();
    OutputFile(const OutputFile&) = delete;
    OutputFile& operator=(const OutputFile&) = delete;

    const std::string& path() const { return path_; }  ///< as it was given
    /// For a program that writes it.
    int descriptor() const { return descriptor_; }

    /// Appends. Throws InputError when it cannot be written, such as for want of room.
    void write(std::string_view text);
    /// The file stands under its name, whole. Throws InputError when that cannot be. At most once.
    void commit();

   private:
    [[noreturn]] void fail() const;

    std::string path_;
    std::string temporary_;  ///< its name where the system has no files without one
    int descriptor_ = -1;
};

/// Replaces a file of that name whole, or throws InputError and leaves it as it was.
void write_file(const std::string& path, std::string_view text);

}  // namespace arvek
